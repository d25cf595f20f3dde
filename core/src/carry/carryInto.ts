/** What goes along, put into another edit: beside what is there, in the place of what came before, or only what changed since. */
import { produce } from 'immer';
import { noGeometry } from '../geometry/geometry.ts';
import { eachMask } from '../mask/registry.ts';
import { copyNumber, idOfCopy } from './ids.ts';
import { sameRegion, settle } from './takeAlong.ts';
import { sameValue } from '../document/difference.ts';
import { addRegions, copyLayers, removeLayers, unlink, type Recipe } from '../document/edit.ts';
import { lettersApart, type Reading } from '../document/reading.ts';
import type { MaskOwner } from '../document/region.ts';
import { inSpace } from '../document/inSpace.ts';
import { mergeDocuments, type Merged } from '../document/merge.ts';
import { keepTogether } from '../document/together.ts';
import { childrenOf, eachLayer, eachMaskOwner, findLayer, placeOf } from '../document/tree.ts';
import type { Layer, UmboDocument } from '../document/types.ts';

/** `add`: beside what is there. `replace`: in the place of what came from the same layers before. `whole`: instead of the whole edit. */
export type CarryHow = 'add' | 'replace' | 'whole';

/** What a layer is a copy of: itself, unless it came from elsewhere. */
export const originOf = ({ id, origin = id }: Layer): string => origin;

/** Without a look at what was to be checked: what comes along again is to be checked again. */
const changed = (document: UmboDocument, recipe: Recipe): UmboDocument =>
  produce(document, (draft) => {
    recipe(draft);
    keepTogether(document, draft);
  });

/** The id of what owns a mask, and of the mask's parts. */
const idsOf = ({ id, where }: MaskOwner): string[] => [
  id,
  ...Array.from(eachMask(where)).flatMap(({ parts }) => parts.map((part) => part.id)),
];
const idsIn = (layer: Layer): string[] => [...eachLayer([layer])].flatMap(idsOf);

/** The layers of an edit that came from the same as these, by the ids of these. */
export function presentOf(document: UmboDocument, layers: readonly Layer[]): Map<string, Layer> {
  const here = [...eachLayer(document.layers)];
  return new Map(
    layers.flatMap((layer) => {
      const same = here.find((one) => originOf(one) === originOf(layer));
      return same ? [[layer.id, same] as const] : [];
    }),
  );
}

/** Copies whose ids are those of the originals where they are free; those of what stands in for them, where something does. */
function copiesFor(document: UmboDocument, layers: readonly Layer[], present: ReadonlyMap<string, Layer>): Layer[] {
  const taken = new Set([...eachMaskOwner(document)].flatMap(idsOf));
  for (const here of present.values()) for (const id of idsIn(here)) taken.delete(id);
  const ids = new Map<string, string>();
  for (const layer of layers) {
    const here = present.get(layer.id);
    const [top, ...others] = idsIn(layer) as [string, ...string[]];
    const isFree = (id: string, copy: number): boolean => !taken.has(idOfCopy(id, copy));
    let copy = (here && copyNumber(layer, here)) ?? 1;
    if (!here) while (![top, ...others].every((id) => isFree(id, copy))) copy++;
    ids.set(top, here ? here.id : idOfCopy(top, copy));
    taken.add(ids.get(top)!);
    for (const id of others) {
      // What was moved out of a group that is here keeps its id, and what comes gets another.
      let n = copy;
      while (!isFree(id, n)) n++;
      ids.set(id, idOfCopy(id, n));
      taken.add(ids.get(id)!);
    }
  }
  const copies = copyLayers(layers, (id) => ids.get(id)!);
  for (const [i, copy] of copies.entries()) {
    const { treatment } = layers[i]!;
    Object.assign(copy, { origin: originOf(layers[i]!) }, treatment && { treatment });
  }
  return copies;
}

/** Readings that came along, in the place of those with their ids or after all others. */
function putReadings(draft: UmboDocument, readings: readonly Reading[], replaces: boolean): void {
  for (const reading of readings) {
    const list = (draft.readings ??= []);
    const at = list.findIndex(({ id }) => id === reading.id);
    if (at < 0) list.push(reading);
    else if (replaces) list[at] = { ...reading, letter: list[at]!.letter };
  }
  if (draft.readings) lettersApart(draft.readings);
}

function putGeometry(draft: UmboDocument, { geometry }: UmboDocument): void {
  if (!geometry) return;
  if (sameValue(geometry, noGeometry)) delete draft.geometry;
  else draft.geometry = structuredClone(geometry);
}

/**
 * An edit with what goes along in it. Regions that it has already, by themselves or by role and name, stay as they are here.
 * @param given what goes along, for a photograph of this size
 */
export function carryInto(document: UmboDocument, given: UmboDocument, how: CarryHow): UmboDocument {
  const carried = inSpace(given, document.workingSpace);
  const begun = how === 'whole' ? { ...document, layers: [] } : document;
  const present = how === 'replace' ? presentOf(document, carried.layers) : new Map<string, Layer>();
  const layers = copiesFor(begun, carried.layers, present);
  const readings = structuredClone(carried.readings ?? []) as Reading[];
  const regions = settle(document, { layers, regions: structuredClone(carried.regions ?? []), readings });
  const wasUntouched = document.layers.length === 0;
  return changed(document, (draft) => {
    if (how === 'whole') {
      removeLayers(draft.layers.map(({ id }) => id))(draft);
      delete draft.readings;
      delete draft.strength;
    }
    addRegions(regions)(draft);
    for (const layer of layers) {
      const place = placeOf(draft, layer.id);
      if (!place) {
        draft.layers.push(layer);
        continue;
      }
      const stay = new Set(Array.from(eachLayer([layer]), ({ id }) => id));
      const gone = new Set(Array.from(eachLayer([place.list[place.index]!]), ({ id }) => id).filter((id) => !stay.has(id)));
      unlink(draft, (id) => gone.has(id));
      place.list[place.index] = layer;
    }
    putReadings(draft, readings, how === 'replace');
    putGeometry(draft, carried);
    if ((how === 'whole' || wasUntouched) && carried.strength !== undefined) draft.strength = carried.strength;
  });
}

/**
 * An edit with what has changed in what went along since it did: layers, settings and readings that were changed, taken out or moved here stay
 * as they are here.
 * @param before what went along then; `now`: what would go along now; both for a photograph of this size
 * @returns with `conflicts`, what was changed on both sides and kept as it is here
 */
export function carryChanges(document: UmboDocument, before: UmboDocument, now: UmboDocument): Merged {
  const isHere = (layer: Layer): boolean => presentOf(document, [layer]).size > 0;
  const wasThere = new Set(before.layers.map(originOf));
  const isThere = new Set(now.layers.map(originOf));
  const stateOf = (carried: UmboDocument, layers: readonly Layer[]): UmboDocument =>
    carryInto(document, { ...carried, layers: [...layers], strength: undefined }, 'replace');
  const base = stateOf(before, before.layers.filter(isHere));
  const gone = before.layers.filter((layer) => isHere(layer) && !isThere.has(originOf(layer)));
  const kept = now.layers.filter((layer) => isHere(layer) || !wasThere.has(originOf(layer)));
  const theirs = changed(stateOf(now, kept), (draft) => {
    for (const layer of presentOf(document, gone).values()) {
      const place = placeOf(draft, layer.id);
      place?.list.splice(place.index, 1);
    }
    // New ones act after what they act after there, not last of all.
    for (const [i, layer] of now.layers.entries()) {
      if (i === 0 || !kept.includes(layer) || isHere(layer)) continue;
      const [own, below] = [presentOf(draft, [layer]), presentOf(draft, [now.layers[i - 1]!])].map((map) => [...map.values()][0]);
      const from = own && placeOf(draft, own.id);
      if (!from || !below) continue;
      const [taken] = from.list.splice(from.index, 1);
      const to = placeOf(draft, below.id)!;
      to.list.splice(to.index + 1, 0, taken!);
    }
  });
  return mergeDocuments(base, document, theirs, 'mine');
}

/** What owns a mask here, layers and regions, by the ids of what went along: of several copies of a layer, the last. */
export function carriedHere(document: UmboDocument, carried: UmboDocument): Map<string, string> {
  const here = [...eachLayer(document.layers)].reverse();
  const found = new Map<string, string>();
  for (const layer of carried.layers) {
    const same = here.find((one) => originOf(one) === originOf(layer));
    if (!same) continue;
    found.set(layer.id, same.id);
    const copy = copyNumber(layer, same);
    for (const { id } of copy ? eachLayer(childrenOf(layer)) : []) {
      const inside = idOfCopy(id, copy!);
      if (findLayer(document, inside)) found.set(id, inside);
    }
  }
  for (const region of carried.regions ?? []) {
    const same = sameRegion(document.regions ?? [], region);
    if (same) found.set(region.id, same.id);
  }
  return found;
}
