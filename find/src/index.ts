/** Finds regions: people and what of them is what, the sky, the main object. */
export { findRegions, type Found } from './find.ts';
export { FINDER, findingLevel, MODEL_FILES } from './files.ts';
export { loadNets, startRuntime, type Nets } from './nets.ts';
export { resized, resizedPicture, type Picture, type Plane } from './picture.ts';
export { findPortrait } from './portrait.ts';
export type { FoundRegion, Progress, Sureness, Wanted } from './regions.ts';
export { findObject, findSky } from './scene.ts';
