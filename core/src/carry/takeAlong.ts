/** Layers on their way to another edit, with the regions that their masks use, and the readings and the crop where they go along. */
import { noGeometry } from '../geometry/geometry.ts';
import { eachMask, maskPartKind, sampledFrom, type Mask } from '../mask/registry.ts';
import { emptyDocument } from '../document/defaults.ts';
import { partIds, relink, unlink } from '../document/edit.ts';
import type { Reading } from '../document/reading.ts';
import { roleName, type MaskOwner, type Region } from '../document/region.ts';
import { readingsOf } from '../document/foundBy.ts';
import { linksOf } from '../document/resolve.ts';
import { eachLayer, eachMaskOwner, findLayer, isArea, repeatable, topmost } from '../document/tree.ts';
import type { Layer, UmboDocument } from '../document/types.ts';

/** The regions whose colours the parts of a mask took. */
const sampledIn = (where: Mask): string[] =>
  Array.from(eachMask(where)).flatMap(({ parts }) => parts.flatMap((part) => sampledFrom(part) ?? []));

export interface Carried {
  readonly layers: Layer[];
  readonly regions: Region[];
  readonly readings: Reading[];
}

/** Everything of what is carried that owns a mask. */
const ownersOf = ({ layers, regions, readings }: Carried): MaskOwner[] => [...eachLayer(layers), ...regions, ...readings.filter(isArea)];

/**
 * Copies layers, readings, those that the layers' settings were found for, and the regions that their masks use, themselves or through
 * others. Links among them stay links; masks that were linked to layers which stay behind get what they showed.
 */
export function takeAlong(document: UmboDocument, layers: readonly Layer[], read: readonly Reading[] = []): Carried {
  const copies = structuredClone(layers) as Layer[];
  // How near it came is known of the photograph that it was found on.
  for (const { foundBy } of eachLayer(copies)) if (foundBy?.kind === 'solver') delete foundBy.off;
  const aimed = repeatable({ ...document, layers }).flatMap(({ foundBy }) => readingsOf(foundBy));
  const all = document.readings?.filter((reading) => read.includes(reading) || aimed.includes(reading.id));
  const readings = structuredClone(all ?? []) as Reading[];
  const taken = { ...document, layers: copies };
  const regions = new Map<string, Region>();
  const given = partIds(eachMaskOwner(document));
  const isLeft = (id: string): boolean => !findLayer(taken, id) && !document.regions?.some((region) => region.id === id);
  const follow = (where: Mask): void => {
    for (const id of [...linksOf(where), ...sampledIn(where)]) {
      const region = document.regions?.find((one) => one.id === id);
      if (!region || regions.has(id)) continue;
      const copy = structuredClone(region);
      regions.set(id, copy);
      unlink(document, isLeft, [copy], given);
      follow(copy.where);
    }
  };
  for (const owner of ownersOf({ layers: copies, regions: [], readings })) {
    unlink(document, isLeft, [owner], given);
    follow(owner.where);
  }
  return { layers: copies, regions: [...regions.values()], readings };
}

/** What of an edit goes along. */
export interface CarryChoice {
  readonly layers: 'all' | readonly string[];
  /** All of the regions; else those that masks use. */
  readonly regions: boolean;
  readonly readings: boolean;
  readonly geometry: boolean;
  /** The layers, by their ids, whose settings are found anew; left out: none. */
  readonly solve?: readonly string[];
  /** How strong what goes along acts, 0..1 of what it does there; left out: all of it. */
  readonly strength?: number;
}

/**
 * An edit that holds nothing but what goes along.
 * @example
 * const document = { ...emptyDocument({ width: 60, height: 40 }), layers: [adjustmentLayer('a', 'exposure', 'A')], strength: 0.5 };
 * const { layers, geometry } = carriedFrom(document, { layers: ['a'], regions: false, readings: false, geometry: true });
 * [layers.length, geometry.crop]; // → [1, null]
 */
export function carriedFrom(document: UmboDocument, choice: CarryChoice): UmboDocument {
  const chosen = choice.layers === 'all' ? document.layers : topmost(document, new Set(choice.layers));
  const { layers, regions: used, readings } = takeAlong(document, chosen, choice.readings ? document.readings : []);
  const { strength = 1 } = choice;
  if (strength < 1) for (const { how } of layers) how.opacity = Math.round(how.opacity * strength * 1000) / 1000;
  const regions = choice.regions ? (structuredClone(document.regions ?? []) as Region[]) : used;
  return {
    ...emptyDocument(document.photo, document.workingSpace),
    layers,
    ...(regions.length > 0 && { regions }),
    ...(readings.length > 0 && { readings }),
    // That nothing is cut is carried as well.
    ...(choice.geometry && { geometry: structuredClone(document.geometry ?? noGeometry) }),
    // All of an edit goes with its strength.
    ...(chosen.length === document.layers.length && document.strength !== undefined && { strength: document.strength }),
  };
}

/** Marks what was drawn on another photograph: it has to be looked at on this one. */
export function markDrawn(owners: Iterable<MaskOwner>): void {
  for (const { where } of owners)
    for (const { parts } of eachMask(where))
      for (const part of parts) if (maskPartKind(part.kind).travels === 'to be checked') part.check = true;
}

/**
 * The same region in another edit: by itself, or by its role and name; the first of its role, where its name says no more than that. Regions
 * without a role go by a name that somebody gave them.
 */
export const sameRegion = (own: readonly Region[], { id, role, name }: Region): Region | undefined =>
  own.find((one) => one.id === id) ??
  own.find((one) => one.role === role && one.name === name && (role !== undefined || !PLAIN.test(name))) ??
  own.find((one) => role !== undefined && one.role === role && name === roleName(role));

/** A name that was given by no one. */
const PLAIN = /^Region( \d+)?$/;

/**
 * Which of the regions that came along an edit does not have, by itself or by one of the same role and name; links to the others, in what
 * came along, lead to those that it has.
 */
export function relinkRegions(document: UmboDocument, { layers, regions, readings }: Carried): Region[] {
  const own = document.regions ?? [];
  const here = new Map(
    regions.flatMap((region) => {
      const same = sameRegion(own, region);
      return same ? [[region.id, same.id] as const] : [];
    }),
  );
  const added = regions.filter(({ id }) => !here.has(id));
  for (const [from, to] of here) if (from !== to) relink({ ...document, layers, regions: added, readings }, from, to);
  return added;
}
