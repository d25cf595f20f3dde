/** Layers that share their settings: each holds them, and a change of one is a change of all. */
import { eachLayer } from './tree.ts';
import type { Layer, UmboDocument } from './types.ts';

/** The layers that share their settings with one; without that one. */
export const sharers = (document: UmboDocument, { id, shared }: Pick<Layer, 'id' | 'shared'>): Layer[] =>
  shared === undefined ? [] : Array.from(eachLayer(document.layers)).filter((layer) => layer.id !== id && layer.shared === shared);

/**
 * Writes into a draft what one of several sharing layers became into the others of its kind. What was changed goes before what was there,
 * and that before what has just joined.
 * @param before the document that the draft began as
 */
export function keepTogether(before: UmboDocument, draft: UmboDocument): void {
  const sets = new Map<string, Layer[]>();
  for (const layer of eachLayer(draft.layers)) {
    if (layer.shared === undefined) continue;
    const set = sets.get(layer.shared);
    if (set) set.push(layer);
    else sets.set(layer.shared, [layer]);
  }
  if (sets.size === 0) return;
  const known = new Map(Array.from(eachLayer(before.layers), (layer) => [layer.id, layer]));
  for (const set of sets.values()) {
    const wasIn = set.filter(({ id, shared }) => known.get(id)?.shared === shared);
    const texts = new Map(set.map((layer) => [layer, settingsText(layer)]));
    if (new Set(texts.values()).size === 1) continue;
    const changed = wasIn.filter((layer) => settingsText(known.get(layer.id)!) !== texts.get(layer));
    const giver = changed.at(-1) ?? wasIn[0] ?? set[0]!;
    for (const layer of set)
      if (layer !== giver && layer.what.kind === giver.what.kind && texts.get(layer) !== texts.get(giver))
        Object.assign(layer.what, { settings: JSON.parse(JSON.stringify(giver.what.settings)) as unknown });
  }
}

const settingsText = ({ what }: Layer): string => JSON.stringify([what.kind, what.settings]);
