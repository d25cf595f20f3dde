export type { Note } from './note.ts';
export { regionColours, type RegionColour } from './regionColours.ts';
export { findNotes, layerBehind, noteKinds } from './registry.ts';
