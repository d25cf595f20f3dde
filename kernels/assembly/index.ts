export { inLight, through, throughLut } from './channels';
export { fromLab, gainChroma, hueRange, moveNear, readCones, readOklab, shiftTones, toLab, turn, turnHues } from './oklab';
