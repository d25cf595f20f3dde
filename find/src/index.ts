/** Finds regions: people and what of them is what, the sky, the main object. */
export { FINDER, loadNets, MODEL_FILES, startRuntime, type Nets } from './nets.ts';
export { resized, resizedPicture, type Picture, type Plane } from './picture.ts';
export { findPortrait } from './portrait.ts';
export { ROLES, type FoundRegion, type Progress, type Role, type Sureness } from './regions.ts';
export { findObject, findSky } from './scene.ts';
