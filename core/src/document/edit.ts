/** Edits as data: a recipe on a document gives the next document and the patches there and back. */
import { applyPatches, enablePatches, produceWithPatches, type Patch } from 'immer';
import type { Layer, UmboDocument } from './types.ts';

enablePatches();

export type { Patch };

/** Changes a draft in place. Must set values rather than add to them, so that a live preview may run it again. */
export type Recipe = (draft: UmboDocument) => void;

/** One step of the history. */
export interface Entry {
  id: string;
  /** What a person reads in the history, such as "Hue +23° on Shoulder". */
  label: string;
  patches: Patch[];
  inverse: Patch[];
}

/** Runs a recipe. The patches are empty when it changed nothing. */
export function edit(document: UmboDocument, recipe: Recipe): { document: UmboDocument; patches: Patch[]; inverse: Patch[] } {
  const [next, patches, inverse] = produceWithPatches(document, (draft) => {
    recipe(draft);
  });
  return { document: next, patches, inverse };
}

/** @throws Error when a patch does not fit the document */
export function patch(document: UmboDocument, patches: readonly Patch[]): UmboDocument {
  return applyPatches(document, patches as Patch[]);
}

/** A recipe on one layer; does nothing when the layer is gone. */
export function onLayer(id: string, change: (layer: Layer) => void): Recipe {
  return (draft) => {
    const layer = draft.layers.find((candidate) => candidate.id === id);
    if (layer) change(layer);
  };
}

/** Puts a new layer above the layer `after`, or below all when that is null. */
export function insertLayer(layer: Layer, after: string | null): Recipe {
  return (draft) => {
    if (draft.layers.some((existing) => existing.id === layer.id)) return;
    draft.layers.splice(draft.layers.findIndex((existing) => existing.id === after) + 1, 0, layer);
  };
}

export function removeLayer(id: string): Recipe {
  return (draft) => {
    const at = draft.layers.findIndex((layer) => layer.id === id);
    if (at >= 0) draft.layers.splice(at, 1);
  };
}

/** Moves a layer to a place counted from the bottom, 0 being the lowest. */
export function moveLayer(id: string, to: number): Recipe {
  return (draft) => {
    const at = draft.layers.findIndex((layer) => layer.id === id);
    if (at < 0) return;
    const [layer] = draft.layers.splice(at, 1);
    draft.layers.splice(Math.max(0, Math.min(to, draft.layers.length)), 0, layer!);
  };
}

/** A copy of a layer, with new ids throughout. */
export function copyLayer(layer: Layer, newId: () => string, name: string): Layer {
  const copy = structuredClone(layer);
  copy.id = newId();
  copy.name = name;
  for (const part of copy.where.parts) part.id = newId();
  return copy;
}
