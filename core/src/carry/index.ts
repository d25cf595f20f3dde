export { carriedHere, carryChanges, carryInto, originOf, presentOf, type CarryHow, type OneCarry } from './carryInto.ts';
export { correctionFor, type CorrectionWish } from './correction.ts';
export { cameWith, factsOf, type CarriedMask, type CarryFacts, type CarryReport } from './facts.ts';
export { answeredWords, clippingWords, lightWords, maskWords, type Clipping, type Light } from './words.ts';
export { asFound, asStrongAs, joinFoundHere, sampleHere, foundHereIn, withFoundHere, type FoundHere } from './foundHere.ts';
export { distinct, sampleAnew } from './sampleAnew.ts';
export { carriedFrom, markDrawn, relinkRegions, takeAlong, type Carried, type CarryChoice } from './takeAlong.ts';
