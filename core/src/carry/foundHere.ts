/** What was found anew for layers that went along: so that a later carry can tell it from what somebody changed there. */
import { produce } from 'immer';
import { eachMask, findPart, maskPartKind, sampledFrom, type MaskPart } from '../mask/registry.ts';
import { idOfCopy } from '../document/copyIds.ts';
import { sameValue } from '../document/difference.ts';
import { eachLayer, findLayer } from '../document/tree.ts';
import type { Layer, UmboDocument } from '../document/types.ts';

/** What parts of masks became, by their ids: the settings that hold colours which were taken anew. */
type FoundParts = Readonly<Record<string, Readonly<Record<string, unknown>>>>;

/** What layers became, by the ids that they have where they come from; what of a layer was not found anew is left out. */
export type FoundHere = Readonly<Record<string, Partial<Pick<Layer, 'what' | 'how'>> & { parts?: FoundParts }>>;

/** @param here the ids here, by those there */
export function foundHereIn(document: UmboDocument, ids: readonly string[], here: ReadonlyMap<string, string>): FoundHere {
  const found = ids.flatMap((id) => {
    const layer = findLayer(document, here.get(id) ?? null);
    return layer ? [[id, { what: layer.what, how: layer.how }] as const] : [];
  });
  return Object.fromEntries(found);
}

/** Both, layer by layer: what is said of one later goes before what was said of it earlier. */
export function joinFoundHere(earlier: FoundHere, later: FoundHere): FoundHere {
  const joined: Record<string, FoundHere[string]> = { ...earlier };
  for (const [id, one] of Object.entries(later)) joined[id] = { ...joined[id], ...one };
  return joined;
}

/** What goes along, as if its layers had become there what they became here: what was found here is then nobody's change. */
export const withFoundHere = (carried: UmboDocument, settled: FoundHere): UmboDocument =>
  produce(carried, (draft) => {
    for (const layer of eachLayer(draft.layers)) {
      const { what, how, parts } = structuredClone(settled[layer.id] ?? {});
      if (what && how && what.kind === layer.what.kind) {
        layer.what = what;
        // Only how strong a layer is can have been found; all else of how it joins is its own.
        if (layer.foundBy?.kind === 'solver' && layer.foundBy.turned === 'opacity') layer.how.opacity = how.opacity;
      }
      for (const mask of parts ? eachMask(layer.where) : [])
        for (const part of mask.parts) if (sampledFrom(part) !== undefined) Object.assign(part, parts![part.id]);
    }
  });

/** Those of the layers that are here as they were found, and may be found anew: the others somebody has changed by hand. */
export const asFound = (document: UmboDocument, ids: readonly string[], here: ReadonlyMap<string, string>, settled: FoundHere): string[] =>
  ids.filter((id) => {
    const layer = findLayer(document, here.get(id) ?? null);
    const what = settled[id]?.what;
    return layer && (!what || what.kind !== layer.what.kind || sameValue(what, layer.what));
  });

/** A part of a layer that went along, and what it is here. */
interface PartHere {
  readonly layerId: string;
  readonly partId: string;
  readonly hereId: string;
  readonly part: MaskPart;
}

/** The parts here that took the colours of a region, with the ids of their layers and their own where they come from. */
function sampledHere(document: UmboDocument, carried: UmboDocument, here: ReadonlyMap<string, string>): PartHere[] {
  return carried.layers.flatMap((top) => {
    const copy = findLayer(document, here.get(top.id) ?? null)?.carried?.copy ?? 1;
    return [...eachLayer([top])].flatMap(({ id: layerId, where }) => {
      const layer = findLayer(document, here.get(layerId) ?? null);
      return Array.from(eachMask(where)).flatMap(({ parts }) =>
        parts.flatMap(({ id: partId }) => {
          const part = layer && findPart(layer.where, idOfCopy(partId, copy));
          return part && sampledFrom(part) !== undefined ? [{ layerId, partId, hereId: layer.id, part }] : [];
        }),
      );
    });
  });
}

/**
 * What became of parts whose colours were taken anew. Where somebody took others by hand since they were taken before, those stay.
 * @param before the edit before the colours were taken, `sampled` after
 */
export function sampleHere(
  before: UmboDocument,
  sampled: UmboDocument,
  carried: UmboDocument,
  here: ReadonlyMap<string, string>,
  settled: FoundHere,
): { document: UmboDocument; settled: FoundHere } {
  const found: Record<string, { parts: Record<string, Record<string, unknown>> }> = {};
  const document = produce(sampled, (draft) => {
    for (const { layerId, partId, hereId, part } of sampledHere(before, carried, here)) {
      const now = findPart(findLayer(draft, hereId)!.where, part.id)! as unknown as Record<string, unknown>;
      const was = part as unknown as Record<string, unknown>;
      const known = settled[layerId]?.parts?.[partId];
      const isByHand = known !== undefined && Object.entries(known).some(([key, value]) => !sameValue(value, was[key]));
      if (isByHand) Object.assign(now, structuredClone(was));
      const link = maskPartKind(part.kind).sampled;
      const keys = Object.keys(now).filter((key) => key !== link && (known?.[key] !== undefined || !sameValue(now[key], was[key])));
      const fields = isByHand ? known : Object.fromEntries(keys.map((key) => [key, JSON.parse(JSON.stringify(now[key])) as unknown]));
      if (Object.keys(fields).length > 0) (found[layerId] ??= { parts: {} }).parts[partId] = fields;
    }
  });
  return { document, settled: found };
}

/** An edit in which layers are as strong as others are. @param strong by the ids that they have in the edit */
export const asStrongAs = (document: UmboDocument, strong: ReadonlyMap<string, number>): UmboDocument =>
  produce(document, (draft) => {
    for (const layer of eachLayer(draft.layers)) layer.how.opacity = strong.get(layer.id) ?? layer.how.opacity;
  });
