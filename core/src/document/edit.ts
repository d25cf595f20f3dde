/** Edits as data: a recipe on a document gives the next document and the patches there and back. */
import { applyPatches, enablePatches, produce, type Patch } from 'immer';
import { lookedAt } from './checked.ts';
import { freeCopyId } from './copyIds.ts';
import { difference } from './difference.ts';
import { fieldKeys } from './fields.ts';
import { eachMask, maskPartKind, sampledFrom, type Mask } from '../mask/registry.ts';
import type { MaskOwner, Region } from './region.ts';
import { resolveMask } from './resolve.ts';
import { keepTogether } from './together.ts';
import { childrenOf, eachLayer, eachMaskOwner, findLayer, findMaskOwner, placeOf, topmost } from './tree.ts';
import type { Layer, UmboDocument } from './types.ts';

enablePatches();

export type { Patch };

/** What a recipe says that takes over what another edit holds, with its marks of what is to be looked at. */
const MARKS_AS_GIVEN = 'marks as given';

/** Changes a draft in place. */
export type Recipe = (draft: UmboDocument) => void | typeof MARKS_AS_GIVEN;

/** One step of the history. */
export interface Entry {
  id: string;
  /** What a person reads in the history, such as "Hue +23° on Shoulder". */
  label: string;
  patches: Patch[];
  inverse: Patch[];
}

/** The document after a recipe, with layers that share their settings still sharing them, and parts that were changed looked at. */
export function after(document: UmboDocument, recipe: Recipe): UmboDocument {
  const said: ReturnType<Recipe>[] = [];
  const next = produce(document, (draft) => {
    said.push(recipe(draft));
    keepTogether(document, draft);
  });
  return said[0] === MARKS_AS_GIVEN ? next : lookedAt(document, next);
}

/**
 * Runs a recipe. The patches are empty when it changed nothing.
 * @example
 * const document = { ...emptyDocument({ width: 60, height: 40 }), layers: [adjustmentLayer('a', 'exposure', 'Lighter')] };
 * const { patches } = edit(document, onLayer('a', (layer) => void (layer.how.opacity = 0.5)));
 * patches; // → [{ op: 'replace', path: ['layers', 0, 'how', 'opacity'], value: 0.5 }]
 */
export function edit(document: UmboDocument, recipe: Recipe): { document: UmboDocument; patches: Patch[]; inverse: Patch[] } {
  const next = after(document, recipe);
  return { document: next, patches: difference(document, next), inverse: difference(next, document) };
}

/** @throws Error when a patch does not fit the document */
export function patch(document: UmboDocument, patches: readonly Patch[]): UmboDocument {
  return applyPatches(document, patches as Patch[]);
}

/** Takes over what another edit does: its layers, and all that it holds beside them. */
export function replaceWith(other: UmboDocument): Recipe {
  return (draft) => {
    // A copy: what a recipe puts into a document is frozen with it.
    const copy = structuredClone(other);
    draft.layers = copy.layers;
    draft.workingSpace = copy.workingSpace;
    for (const key of fieldKeys) {
      if (copy[key] === undefined) delete draft[key];
      else Object.assign(draft, { [key]: copy[key] });
    }
    return MARKS_AS_GIVEN;
  };
}

/** A recipe on one layer, wherever it stands; does nothing when the layer is gone. */
export function onLayer(id: string, change: (layer: Layer) => void): (draft: UmboDocument) => void {
  return (draft) => {
    const layer = findLayer(draft, id);
    if (layer) change(layer);
  };
}

/** A recipe on what owns a mask, a layer or a region; does nothing when it is gone. */
export function onMaskOwner(id: string, change: (owner: MaskOwner) => void): Recipe {
  return (draft) => {
    const owner = findMaskOwner(draft, id);
    if (owner) change(owner);
  };
}

/** Adds regions at the end of their list. */
export function addRegions(regions: readonly Region[]): Recipe {
  return (draft) => {
    // A copy: what a recipe puts into a document is frozen with it, and the recipe may run again.
    for (const region of structuredClone(regions)) if (!findMaskOwner(draft, region.id)) (draft.regions ??= []).push(region as Region);
  };
}

/** Takes a region out. Masks that were linked to it become copies. */
export function removeRegion(id: string): Recipe {
  return (draft) => {
    unlink(draft, (link) => link === id);
    const left = (draft.regions ?? []).filter((region) => region.id !== id);
    if (left.length > 0) draft.regions = left;
    else delete draft.regions;
  };
}

/** Puts new layers above the layer `after` and beside it in its group, or below all when that is null. */
export function insertLayers(layers: readonly Layer[], after: string | null): Recipe {
  return (draft) => {
    if (layers.some(({ id }) => findLayer(draft, id))) return;
    const place = after === null ? undefined : placeOf(draft, after);
    if (place) place.list.splice(place.index + 1, 0, ...layers);
    else draft.layers.splice(after === null ? 0 : draft.layers.length, 0, ...layers);
  };
}

/** Takes layers out. Masks that were linked to theirs become copies, a colourway set shows another, and an empty set goes too. */
export function removeLayers(ids: readonly string[]): Recipe {
  return (draft) => {
    const gone = new Set(
      topmost(draft, new Set(ids)).flatMap((layer) => [layer.id, ...Array.from(eachLayer(childrenOf(layer)), ({ id }) => id)]),
    );
    unlink(draft, (id) => gone.has(id));
    for (const id of gone) {
      const place = placeOf(draft, id);
      place?.list.splice(place.index, 1);
    }
    tidySets(draft);
  };
}

/** A colourway set that lost the alternative that shows shows its first; one that has none left goes. */
function tidySets(draft: UmboDocument): void {
  for (const layer of eachLayer(draft.layers)) {
    if (layer.what.kind !== 'colourways') continue;
    const { layers, settings } = layer.what;
    if (layers.some(({ id }) => id === settings.shown)) continue;
    if (layers[0]) settings.shown = layers[0].id;
    else {
      removeLayers([layer.id])(draft); // which begins anew: the set around it may have shown it
      return;
    }
  }
}

/**
 * Masks that were links get the parts and refining steps that they showed, with ids of their own.
 * @param which the ids of layers to whose masks nothing is to be linked any longer
 * @param of whose masks; left out: everybody's
 * @param taken ids of parts that are given already; left out: those of the document
 */
export function unlink(
  document: UmboDocument,
  which: (id: string) => boolean,
  of: Iterable<MaskOwner> = eachMaskOwner(document),
  taken?: Set<string>,
): void {
  for (const { where } of of)
    for (const mask of eachMask(where))
      if (mask.link !== undefined && which(mask.link)) ownParts(document, mask, (taken ??= partIds(eachMaskOwner(document))));
}

/** The ids of all parts of masks. */
export const partIds = (owners: Iterable<MaskOwner>): Set<string> =>
  new Set(Array.from(owners).flatMap(({ where }) => Array.from(eachMask(where)).flatMap(({ parts }) => parts.map(({ id }) => id))));

/** Every link to the mask of one layer leads to that of another. */
export function relink(draft: UmboDocument, from: string, to: string): void {
  for (const { id, where } of eachMaskOwner(draft))
    for (const mask of eachMask(where)) {
      if (id !== to && mask.link === from) mask.link = to;
      for (const part of mask.parts) if (sampledFrom(part) === from) Object.assign(part, { [maskPartKind(part.kind).sampled!]: to });
    }
}

/** A mask that is a link gets the parts and refining steps that it showed. */
export function ownParts(document: UmboDocument, mask: Mask, taken: Set<string> = partIds(eachMaskOwner(document))): void {
  const copy = plain(resolveMask(mask, (id) => findMaskOwner(document, id)));
  for (const { parts } of eachMask(copy)) for (const part of parts) part.id = freeCopyId(part.id, taken);
  mask.parts = copy.parts;
  mask.refine = copy.refine;
  delete mask.link;
}
/** A copy in which nothing is shared, neither with the original nor within itself. */
export const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** Where layers are moved: beside another layer, or into a group above all that is in it. */
export interface Target {
  id: string;
  side: 'before' | 'after' | 'inside';
}

/** Moves layers together, in the order in which they act. Does nothing when the target is in one of them. */
export function moveLayers(ids: readonly string[], target: Target): Recipe {
  return (draft) => {
    const moving = topmost(draft, new Set(ids));
    if (moving.some((layer) => layer.id === target.id || [...eachLayer(childrenOf(layer))].some(({ id }) => id === target.id))) return;
    if (!findLayer(draft, target.id)) return;
    const taken = moving.map((layer) => {
      const place = placeOf(draft, layer.id)!;
      return place.list.splice(place.index, 1)[0]!;
    });
    const place = placeOf(draft, target.id)!;
    if (target.side === 'inside') childrenOf(place.list[place.index]!).push(...taken);
    else place.list.splice(place.index + (target.side === 'after' ? 1 : 0), 0, ...taken);
    tidySets(draft);
  };
}

/** Puts layers into a new group (or colourway set), which takes the place of the last of them. */
export function groupLayers(ids: readonly string[], group: Layer): Recipe {
  return (draft) => {
    const moving = topmost(draft, new Set(ids));
    if (moving.length === 0 || findLayer(draft, group.id)) return;
    const last = placeOf(draft, moving.at(-1)!.id)!;
    // A copy: what a recipe puts into a document is frozen with it, and the recipe may run again.
    const fresh = structuredClone(group);
    last.list.splice(last.index + 1, 0, fresh);
    const inside = childrenOf(findLayer(draft, group.id)!);
    for (const layer of moving) {
      const place = placeOf(draft, layer.id)!;
      const [taken] = place.list.splice(place.index, 1);
      inside.push(taken!);
    }
    const around = last.parent?.what;
    // In a set, a group goes on showing for what is in it now.
    if (around?.kind === 'colourways' && moving.some(({ id }) => id === around.settings.shown)) around.settings.shown = group.id;
    tidySets(draft);
  };
}

/** Puts the layers of a group into its place. */
export function ungroup(id: string): Recipe {
  return (draft) => {
    const place = placeOf(draft, id);
    if (!place) return;
    const group = place.list[place.index]!;
    const inside = childrenOf(group);
    if (inside.length === 0) return;
    unlink(draft, (link) => link === id);
    place.list.splice(place.index, 1, ...inside);
    tidySets(draft);
  };
}

/**
 * A copy of layers, with new ids throughout; links among them point to the copies, links to others stay.
 * @param newId gives the id of the copy of a layer or a mask part
 */
export function copyLayers(layers: readonly Layer[], newId: (id: string) => string): Layer[] {
  const copies = structuredClone(layers) as Layer[];
  const ids = new Map(Array.from(eachLayer(copies), ({ id }) => [id, newId(id)]));
  for (const layer of eachLayer(copies)) {
    layer.id = ids.get(layer.id)!;
    delete layer.origin;
    delete layer.carried;
    delete layer.treatment;
    for (const mask of eachMask(layer.where)) {
      for (const part of mask.parts) part.id = newId(part.id);
      if (mask.link !== undefined) mask.link = ids.get(mask.link) ?? mask.link;
    }
    if (layer.what.kind === 'colourways') layer.what.settings.shown = ids.get(layer.what.settings.shown) ?? layer.what.settings.shown;
  }
  return copies;
}
