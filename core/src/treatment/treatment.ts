/** A way of working that is kept: layers in one group, with what they cannot do without. */
import { shorten } from '../base/names.ts';
import { carriedFrom } from '../carry/takeAlong.ts';
import { idOfCopy } from '../document/copyIds.ts';
import { originOf } from '../carry/carryInto.ts';
import { groupLayer } from '../document/defaults.ts';
import { copyLayers, partIds } from '../document/edit.ts';
import { childrenOf, eachLayer, repeatable } from '../document/tree.ts';
import type { UmboDocument } from '../document/types.ts';

export interface Treatment {
  readonly name: string;
  readonly note: string;
  /** One group, with the regions and the readings that its layers need. */
  readonly document: UmboDocument;
  /** The layers whose settings are found anew on each photograph, by their ids. */
  readonly solve: readonly string[];
}

/**
 * What a treatment keeps of an edit: the layers in a group of its name, unless they are one group already.
 * @param ids of the layers
 * @param newId gives the id of that group
 * @throws RangeError when there is no such layer
 * @example
 * const document = { ...emptyDocument({ width: 60, height: 40 }), layers: [adjustmentLayer('a', 'exposure', 'Lighter')] };
 * const [group] = treatmentFrom(document, ['a'], 'Evening', () => 'g').layers;
 * [group.id, group.name, group.what.kind]; // → ['g', 'Evening', 'group']
 */
export function treatmentFrom(document: UmboDocument, ids: readonly string[], name: string, newId: () => string): UmboDocument {
  const carried = carriedFrom(document, { layers: ids, regions: false, readings: false, geometry: false });
  const { layers } = carried;
  if (layers.length === 0) throw new RangeError('A treatment needs a layer at least.');
  for (const layer of eachLayer(layers)) delete layer.treatment;
  delete carried.strength;
  if (layers.length === 1 && layers[0]!.what.kind === 'group') return carried;
  const group = groupLayer(newId(), shorten(name, 120));
  childrenOf(group).push(...layers);
  return { ...carried, layers: [group] };
}

/**
 * What was made of a treatment on some photograph, as its next version: its layers get the ids back that they had.
 * @param document as {@link treatmentFrom} gives it
 */
export function asNextVersion(document: UmboDocument, before: UmboDocument): UmboDocument {
  const [own, old] = [document.layers[0]!, before.layers[0]!];
  if (originOf(own) !== originOf(old)) return document;
  const copy = own.carried?.copy ?? 1;
  const layersThen = [...eachLayer([old])];
  const ids = new Map([...layersThen.map(({ id }) => id), ...partIds(layersThen)].map((id) => [idOfCopy(id, copy), id]));
  ids.set(own.id, old.id);
  const taken = new Set(ids.values());
  const layers = copyLayers([own], (id) => ids.get(id) ?? (taken.has(id) ? idOfCopy(id, 2) : id));
  return { ...document, layers };
}

/** @returns what is wrong with a treatment's edit, as the end of a sentence; null when it is sound */
export function faultOfTreatment({ document, solve }: Pick<Treatment, 'document' | 'solve'>): string | null {
  if (document.layers.length !== 1 || document.layers[0]!.what.kind !== 'group') return 'a treatment is one group of layers';
  const known = repeatable(document).map(({ id }) => id);
  return solve.every((id) => known.includes(id)) ? null : 'it is to find settings anew that nothing says how to find';
}
