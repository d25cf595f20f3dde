export { hueRange, turn } from './oklab';
