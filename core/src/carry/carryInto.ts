/** What goes along, put into another edit: beside what is there, in the place of what came before, or only what changed since. */
import { produce } from 'immer';
import { noGeometry } from '../geometry/geometry.ts';
import { eachMask } from '../mask/registry.ts';
import { joinFoundHere, withFoundHere, type FoundHere } from './foundHere.ts';
import { sameRegion, relinkRegions } from './takeAlong.ts';
import { idOfCopy } from '../document/copyIds.ts';
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

/** What is noted of a layer that comes along, of what brought it here. */
type NoteOf = (layer: Layer, copy: number) => Layer['carried'];

/** Copies whose ids are those of the originals where they are free; those of what stands in for them, where something does. */
function copiesFor(document: UmboDocument, layers: readonly Layer[], present: ReadonlyMap<string, Layer>, noteOf: NoteOf): Layer[] {
  const taken = new Set([...eachMaskOwner(document)].flatMap(idsOf));
  for (const here of present.values()) for (const id of idsIn(here)) taken.delete(id);
  const ids = new Map<string, string>();
  const notes = new Map<Layer, Layer['carried']>();
  for (const layer of layers) {
    const here = present.get(layer.id);
    const [top, ...others] = idsIn(layer) as [string, ...string[]];
    const isFree = (id: string, copy: number): boolean => !taken.has(idOfCopy(id, copy));
    let copy = here?.carried?.copy ?? 1;
    if (!here) while (![top, ...others].every((id) => isFree(id, copy))) copy++;
    notes.set(layer, noteOf(layer, copy));
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
    const carried = notes.get(layers[i]!);
    Object.assign(copy, { origin: originOf(layers[i]!) }, carried && { carried }, treatment && { treatment });
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
 * @param by the id of the carry, by which its layers are known again
 */
export const carryInto = (document: UmboDocument, given: UmboDocument, how: CarryHow, by: string): UmboDocument =>
  put(document, given, how, (_, copy) => ({ by, copy }));

function put(document: UmboDocument, given: UmboDocument, how: CarryHow, noteOf: NoteOf): UmboDocument {
  const carried = inSpace(given, document.workingSpace);
  const begun = how === 'whole' ? { ...document, layers: [] } : document;
  const present = how === 'replace' ? presentOf(document, carried.layers) : new Map<string, Layer>();
  const layers = copiesFor(begun, carried.layers, present, noteOf);
  const readings = structuredClone(carried.readings ?? []) as Reading[];
  const regions = relinkRegions(document, { layers, regions: structuredClone(carried.regions ?? []), readings });
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

/** One carry to a photograph. */
export interface OneCarry {
  readonly by: string;
  /** The edit that it came from, as it was. */
  readonly source: UmboDocument;
  /** What of it went along, for a photograph of this size. */
  readonly carried: UmboDocument;
  /** What was found anew here for it. */
  readonly settled: FoundHere;
}

/** A layer here, what it was when it came, and what brought it. */
interface Known {
  readonly here: Layer;
  readonly was: Layer;
  readonly of: OneCarry;
}

const isAll = ({ source, carried }: OneCarry): boolean => carried.layers.length === source.layers.length;

/** What a layer was when it came: by the carry that brought it, or by the version of the treatment; null where neither is known. */
function knownAs(here: Layer, earlier: readonly OneCarry[]): Known | null {
  const wasIn = ({ carried }: OneCarry): Layer | undefined => carried.layers.find((one) => originOf(one) === originOf(here));
  const of =
    earlier.findLast((one) => one.by === here.carried?.by && wasIn(one)) ??
    (here.treatment && earlier.findLast((one) => sameValue(wasIn(one)?.treatment, here.treatment)));
  return of ? { here, was: wasIn(of)!, of } : null;
}

/** Outermost layers, in the places that they have now among the others, in another order. */
function reorder(draft: UmboDocument, order: readonly string[]): void {
  const places = draft.layers.flatMap(({ id }, i) => (order.includes(id) ? [i] : []));
  const layers = order.map((id) => draft.layers.find((layer) => layer.id === id)!);
  places.forEach((place, i) => (draft.layers[place] = layers[i]!));
}

/** Without what says which carry brought its layers. */
const withoutNotes = (document: UmboDocument): UmboDocument =>
  produce(document, (draft) => {
    for (const layer of eachLayer(draft.layers)) delete layer.carried;
  });

/**
 * An edit with what has changed in what went along since it did: layers, settings and readings that were changed, taken out or moved here stay
 * as they are here. What was not chosen this time stays as well, and so does what nothing is known of from when it came.
 * @param earlier what came from the same source before and is here, the oldest first
 * @param now what comes along now
 * @returns with `conflicts`, what was changed on both sides and kept as it is here, and with what of `now` was found here before
 */
export function carryChanges(document: UmboDocument, earlier: readonly OneCarry[], now: OneCarry): Merged & { settled: FoundHere } {
  const inThisSpace = (one: OneCarry): UmboDocument => inSpace(one.carried, document.workingSpace);
  const then = earlier.map((one) => ({ ...one, carried: withFoundHere(inThisSpace(one), one.settled) }));
  const coming = inThisSpace(now);
  const present = presentOf(document, coming.layers);
  const known = [...present.values()].map((here) => knownAs(here, then)).filter((one) => one !== null);
  const settled = known
    .flatMap(({ was, of }) => [...eachLayer([was])].map(({ id }): FoundHere => (of.settled[id] ? { [id]: of.settled[id] } : {})))
    .reduce(joinFoundHere, {});
  const carried = withFoundHere(coming, settled);
  const conflicts: string[] = [];

  const came = new Set(then.flatMap((one) => one.carried.layers.map(originOf)));
  const kept = carried.layers.filter((layer) => {
    const here = present.get(layer.id);
    return here ? known.some((one) => one.here === here) : !came.has(originOf(layer));
  });
  for (const [id, here] of present) {
    if (known.some((one) => one.here === here)) continue;
    const layer = carried.layers.find((one) => one.id === id)!;
    if (!sameValue([here.what, here.how, here.on], [layer.what, layer.how, layer.on])) conflicts.push(here.name);
  }
  const atSource = new Set(Array.from(eachLayer(now.source.layers), originOf));
  const gone = Array.from(eachLayer(document.layers)).flatMap((here) => {
    const is = isAll(now) && !atSource.has(originOf(here)) ? knownAs(here, then) : null;
    return is && presentOf(document, [is.was]).get(is.was.id) === here ? [is] : [];
  });

  const readingsThen = new Map(then.flatMap((one) => one.carried.readings ?? []).map((one) => [one.id, one]));
  const readingsHere = new Map(document.readings?.map((one) => [one.id, one]));
  const isKnown = ({ id }: Reading): boolean => readingsThen.has(id) || !readingsHere.has(id);
  const readings = carried.readings?.filter(isKnown) ?? [];
  const others = carried.readings?.filter((one) => !isKnown(one)) ?? [];
  if (others.some((one) => !sameValue({ ...one, letter: '' }, { ...readingsHere.get(one.id), letter: '' }))) conflicts.push('the readings');

  const cropThen = then.findLast((one) => one.carried.geometry)?.carried.geometry;
  const cropStays = carried.geometry !== undefined && !cropThen && document.geometry !== undefined;
  if (cropStays && !sameValue(carried.geometry, document.geometry)) conflicts.push('the crop');

  const before = then.at(-1);
  const knowsStrength = isAll(now) && before !== undefined && isAll(before);
  /** Those whose order is known from when they came: together, and as outermost layers. */
  const outermost = known.filter(({ here, of }) => document.layers.includes(here) && of === known[0]!.of);
  const inOrder = (of: UmboDocument): string[] =>
    of.layers.flatMap((layer) => outermost.find(({ here }) => originOf(here) === originOf(layer))?.here.id ?? []);

  const base = changed(
    put(
      document,
      {
        ...carried,
        layers: [...known, ...gone].map(({ was }) => was),
        regions: then.flatMap((one) => one.carried.regions ?? []).filter(({ id }, i, all) => all.findIndex((one) => one.id === id) === i),
        readings: [...readingsThen.values()],
        ...{ strength: undefined, geometry: carried.geometry && cropThen },
      },
      'replace',
      (was) => [...known, ...gone].find((one) => one.was === was)!.here.carried,
    ),
    (draft) => {
      if (knowsStrength) putStrength(draft, before.carried);
      if (outermost.length > 1) reorder(draft, inOrder(outermost[0]!.of.carried));
    },
  );
  const theirs = changed(
    put(
      document,
      { ...carried, layers: kept, readings, strength: undefined, geometry: cropStays ? undefined : carried.geometry },
      'replace',
      (_, copy) => ({ by: now.by, copy }),
    ),
    (draft) => {
      if (knowsStrength) putStrength(draft, carried);
      if (outermost.length > 1) reorder(draft, inOrder(carried));
      for (const { here } of gone) {
        const place = placeOf(draft, here.id);
        place?.list.splice(place.index, 1);
      }
      // New ones act after what they act after there, not last of all.
      for (const [i, layer] of carried.layers.entries()) {
        if (i === 0 || !kept.includes(layer) || present.has(layer.id)) continue;
        const [own, below] = [layer, carried.layers[i - 1]!].map((one) => [...presentOf(draft, [one]).values()][0]);
        const from = own && placeOf(draft, own.id);
        if (!from || !below) continue;
        const [taken] = from.list.splice(from.index, 1);
        const to = placeOf(draft, below.id)!;
        to.list.splice(to.index + 1, 0, taken!);
      }
    },
  );
  if (sameValue(withoutNotes(base), withoutNotes(theirs))) return { document, conflicts, settled };
  const merged = mergeDocuments(base, document, theirs, 'mine');
  return { document: merged.document, conflicts: [...conflicts, ...merged.conflicts], settled };
}

function putStrength(draft: UmboDocument, { strength }: UmboDocument): void {
  if (strength === undefined) delete draft.strength;
  else draft.strength = strength;
}

/** What owns a mask here, layers and regions, by the ids of what went along: of several copies of a layer, the last. */
export function carriedHere(document: UmboDocument, carried: UmboDocument): Map<string, string> {
  const here = [...eachLayer(document.layers)].reverse();
  const found = new Map<string, string>();
  for (const layer of carried.layers) {
    const same = here.find((one) => originOf(one) === originOf(layer));
    if (!same) continue;
    found.set(layer.id, same.id);
    const copy = same.carried?.copy ?? 1;
    for (const { id } of eachLayer(childrenOf(layer))) {
      const inside = idOfCopy(id, copy);
      if (findLayer(document, inside)) found.set(id, inside);
    }
  }
  for (const region of carried.regions ?? []) {
    const same = sameRegion(document.regions ?? [], region);
    if (same) found.set(region.id, same.id);
  }
  return found;
}
