export type { Wanted } from './aim.ts';
export { farthest, findAnew, type AimReached, type Answered, type Places } from './findAnew.ts';
export type { ClipLimit } from './limit.ts';
export { readingPlace, type ReadingPlace } from './place.ts';
export { pixelsOf, read, readAfter, type ReadingValues } from './read.ts';
export { solve, type Reached, type Solved } from './solve.ts';
