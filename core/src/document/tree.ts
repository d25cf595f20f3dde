/** Finding one's way among layers in groups. */
import { readingsOf, type FoundBy } from './foundBy.ts';
import type { Reading } from './reading.ts';
import type { MaskOwner } from './region.ts';
import type { Layer, UmboDocument } from './types.ts';

/** The layers in a group or a colourway set; none for any other layer. */
export function childrenOf(layer: Layer): Layer[] {
  return 'layers' in layer.what ? layer.what.layers : [];
}

/** Every layer with all that is in it, in the order in which they act; a group comes before its layers. */
export function* eachLayer(layers: readonly Layer[]): Generator<Layer> {
  for (const layer of layers) {
    yield layer;
    yield* eachLayer(childrenOf(layer));
  }
}

export function findLayer(document: UmboDocument, id: string | null): Layer | undefined {
  for (const layer of eachLayer(document.layers)) if (layer.id === id) return layer;
  return undefined;
}

/** Everything that owns a mask: layers with all that is in them, regions, and readings of an area. */
export function* eachMaskOwner(document: UmboDocument): Generator<MaskOwner> {
  yield* eachLayer(document.layers);
  yield* document.regions ?? [];
  yield* areaReadings(document);
}

/** The readings that are of the area of a mask. */
export const areaReadings = ({ readings = [] }: UmboDocument): AreaReading[] => readings.filter(isArea);
export const isArea = (reading: Reading): reading is AreaReading => reading.where !== undefined;
type AreaReading = Reading & MaskOwner;

export function findMaskOwner(document: UmboDocument, id: string | null): MaskOwner | undefined {
  for (const owner of eachMaskOwner(document)) if (owner.id === id) return owner;
  return undefined;
}

/** Whether it is a layer, rather than a region. */
export const isLayer = (owner: MaskOwner): owner is Layer => 'what' in owner;

/** Where a layer stands: the list that holds it, its place there, and the group that the list belongs to. */
export interface LayerPlace {
  list: Layer[];
  index: number;
  parent: Layer | null;
}

export function placeOf(document: UmboDocument, id: string): LayerPlace | undefined {
  const search = (list: Layer[], parent: Layer | null): LayerPlace | undefined => {
    for (const [index, layer] of list.entries()) {
      const found = layer.id === id ? { list, index, parent } : search(childrenOf(layer), layer);
      if (found) return found;
    }
    return undefined;
  };
  return search(document.layers, null);
}

/** Those of the layers that are not inside another one of them, in the order in which they act. */
export function topmost(document: UmboDocument, ids: ReadonlySet<string>): Layer[] {
  const found: Layer[] = [];
  const search = (list: readonly Layer[]): void => {
    for (const layer of list) {
      if (ids.has(layer.id)) found.push(layer);
      else search(childrenOf(layer));
    }
  };
  search(document.layers);
  return found;
}

/** Layers whose settings can be found anew, in the order in which they act: those that were solved while a reading is there still. */
export function repeatable({
  layers,
  readings = [],
}: {
  layers: readonly Layer[];
  readings?: readonly Reading[];
}): (Layer & { foundBy: FoundBy })[] {
  const isThere = (wanted: string): boolean => readings.some((reading) => reading.id === wanted);
  return Array.from(eachLayer(layers)).filter(
    (layer): layer is Layer & { foundBy: FoundBy } =>
      layer.foundBy !== undefined && (layer.foundBy.kind === 'measurement' || readingsOf(layer.foundBy).some(isThere)),
  );
}
