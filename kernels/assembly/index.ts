export { fromLab, hueRange, toLab, turn } from './oklab';
