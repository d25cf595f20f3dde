export { inLight, through, throughLut } from './channels';
export { turnSpan } from './turn';
export { fromLab, gainChroma, hueRange, moveNear, readCones, readOklab, shiftTones, toLab, turn, turnHues } from './oklab';
