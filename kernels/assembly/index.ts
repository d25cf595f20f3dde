export { inLight, through, throughLut } from './channels';
export { fromLab, gainChroma, hueRange, moveNear, shiftTones, toLab, turn, turnHues } from './oklab';
