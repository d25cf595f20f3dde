/** What was found anew for layers that went along: so that a later carry can tell it from what somebody changed there. */
import { produce } from 'immer';
import { sameValue } from '../document/difference.ts';
import { eachLayer, findLayer } from '../document/tree.ts';
import type { Layer, UmboDocument } from '../document/types.ts';

/** What layers became, by the ids that they have where they come from. */
export type Settled = Readonly<Record<string, Pick<Layer, 'what' | 'how'>>>;

/** @param here the ids here, by those there */
export function settledIn(document: UmboDocument, ids: readonly string[], here: ReadonlyMap<string, string>): Settled {
  const found = ids.flatMap((id) => {
    const layer = findLayer(document, here.get(id) ?? null);
    return layer ? [[id, { what: layer.what, how: layer.how }] as const] : [];
  });
  return Object.fromEntries(found);
}

/** What goes along, as if its layers had become there what they became here: what was found here is then nobody's change. */
export const withSettled = (carried: UmboDocument, settled: Settled): UmboDocument =>
  produce(carried, (draft) => {
    for (const layer of eachLayer(draft.layers)) {
      const found = settled[layer.id];
      if (found?.what.kind !== layer.what.kind) continue;
      const { what, how } = structuredClone(found);
      layer.what = what;
      // Only how strong a layer is can have been found; all else of how it joins is its own.
      if (layer.foundBy?.kind === 'solver' && layer.foundBy.turned === 'opacity') layer.how.opacity = how.opacity;
    }
  });

/** Those of the layers that are here as they were found, and may be found anew: the others somebody has changed by hand. */
export const asFound = (document: UmboDocument, ids: readonly string[], here: ReadonlyMap<string, string>, settled: Settled): string[] =>
  ids.filter((id) => {
    const layer = findLayer(document, here.get(id) ?? null);
    const found = settled[id];
    return layer && (!found || found.what.kind !== layer.what.kind || sameValue(found.what, layer.what));
  });

/** An edit in which layers are as strong as others are. @param strong by the ids that they have in the edit */
export const asStrongAs = (document: UmboDocument, strong: ReadonlyMap<string, number>): UmboDocument =>
  produce(document, (draft) => {
    for (const layer of eachLayer(draft.layers)) layer.how.opacity = strong.get(layer.id) ?? layer.how.opacity;
  });
