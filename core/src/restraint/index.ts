export type { Note } from './note.ts';
export { findNotes, layerBehind, noteKinds } from './registry.ts';
