export { cropMask, documentReach, findMask, findPixels, neededArea, type Finder } from './backdrop.ts';
export * from './filtered.ts';
export { ditherAt, writeTile } from './handOver.ts';
export * from './layers.ts';
export * from './looksSame.ts';
export * from './lut.ts';
export * from './prepare.ts';
export { renderRegion } from './region.ts';
