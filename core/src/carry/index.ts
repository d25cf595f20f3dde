export { carriedHere, carryChanges, carryInto, originOf, presentOf, type CarryHow, type OneCarry } from './carryInto.ts';
export { correctionFor, type CorrectionWish } from './correction.ts';
export { cameWith, factsOf, type CarriedMask, type CarryFacts, type CarryReport } from './facts.ts';
export { answeredWords, clippingWords, lightWords, maskWords, type Clipping, type Light } from './words.ts';
export { asFound, asStrongAs, joinSettled, settleColours, settledIn, withSettled, type Settled } from './settled.ts';
export { distinct, sampleAnew } from './sampleAnew.ts';
export { carriedFrom, markDrawn, settle, takeAlong, type Carried, type CarryChoice } from './takeAlong.ts';
