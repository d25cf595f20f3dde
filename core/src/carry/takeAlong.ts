/** Layers on their way to another edit, with the regions that their masks use. */
import { eachMask, maskPartKind, sampledFrom, type Mask } from '../mask/registry.ts';
import { relink, unlink } from './edit.ts';
import type { Region } from './region.ts';
import { linksOf } from './resolve.ts';
import { eachLayer, findLayer } from './tree.ts';
import type { Layer, UmboDocument } from './types.ts';

/** The regions whose colours the parts of a mask took. */
const sampledIn = (where: Mask): string[] =>
  Array.from(eachMask(where)).flatMap(({ parts }) => parts.flatMap((part) => sampledFrom(part) ?? []));

export interface Carried {
  readonly layers: Layer[];
  readonly regions: Region[];
}

/**
 * Copies layers, and the regions that their masks use, themselves or through others. Links among them stay links; masks that were linked to
 * layers which stay behind get what they showed.
 */
export function takeAlong(document: UmboDocument, layers: readonly Layer[]): Carried {
  const copies = structuredClone(layers) as Layer[];
  const taken = { ...document, layers: copies };
  const regions = new Map<string, Region>();
  const isLeft = (id: string): boolean => !findLayer(taken, id) && !document.regions?.some((region) => region.id === id);
  const follow = (where: Mask): void => {
    for (const id of [...linksOf(where), ...sampledIn(where)]) {
      const region = document.regions?.find((one) => one.id === id);
      if (!region || regions.has(id)) continue;
      const copy = structuredClone(region);
      regions.set(id, copy);
      unlink(document, isLeft, [copy]);
      follow(copy.where);
    }
  };
  for (const layer of eachLayer(copies)) {
    unlink(document, isLeft, [layer]);
    follow(layer.where);
  }
  return { layers: copies, regions: [...regions.values()] };
}

/** Marks what was drawn on another photograph: it has to be looked at on this one. */
export function markDrawn({ layers, regions }: Carried): void {
  for (const owner of [...eachLayer(layers), ...regions])
    for (const { parts } of eachMask(owner.where))
      for (const part of parts) if (maskPartKind(part.kind).travels === 'to be checked') part.check = true;
}

/**
 * Which of the regions that came along an edit does not have, by itself or by one of the same role and name; links to the others, in what
 * came along, lead to those that it has.
 */
export function settle(document: UmboDocument, { layers, regions }: Carried): Region[] {
  const own = document.regions ?? [];
  const here = new Map(
    regions.flatMap(({ id, role, name }) => {
      const same = own.find((one) => one.id === id) ?? own.find((one) => role !== undefined && one.role === role && one.name === name);
      return same ? [[id, same.id] as const] : [];
    }),
  );
  const added = regions.filter(({ id }) => !here.has(id));
  for (const [from, to] of here) if (from !== to) relink({ ...document, layers, regions: added }, from, to);
  return added;
}
