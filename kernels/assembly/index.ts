export { inLight, through, throughLut } from './channels';
export { warpSpan } from './warp';
export { fromLab, gainChroma, hueRange, moveNear, readCones, readOklab, shiftTones, toLab, turn, rotateHues } from './oklab';
