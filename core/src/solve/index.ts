export { readingPlace, type Place } from './place.ts';
export { pixelsOf, read, readAfter, type ReadingValues } from './read.ts';
export { solve, type Aim, type Reached, type Solved, type Turned, type Wanted } from './solve.ts';
