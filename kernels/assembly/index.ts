export { fromLab, hueRange, inLight, through, toLab, turn, turnHues } from './oklab';
