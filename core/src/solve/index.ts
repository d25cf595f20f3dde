export type { Aim, Wanted } from './aim.ts';
export type { ClipLimit } from './limit.ts';
export type { Turned } from './layerDials.ts';
export { readingPlace, type ReadingPlace } from './place.ts';
export { pixelsOf, read, readAfter, type ReadingValues } from './read.ts';
export { solve, type Reached, type Solved } from './solve.ts';
