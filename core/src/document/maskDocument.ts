import { coversAll, readsLayers } from '../mask/mask.ts';
import { emptyDocument, everywhere, sourceLayer } from './defaults.ts';
import { findResolved, resolveLayers } from './resolve.ts';
import type { Layer, UmboDocument } from './types.ts';

/**
 * An edit whose picture is the mask of a layer: white where it acts, black where it does not.
 * @returns null when there is no such layer
 */
export function maskDocument(document: UmboDocument, layerId: string): UmboDocument | null {
  const empty = emptyDocument(document.photo, document.workingSpace);
  const found = findResolved(resolveLayers(document), layerId);
  if (!found) return null;
  const grey = (id: string, value: number): Layer => {
    const layer = sourceLayer(id, 'fill', id, document.photo);
    if (layer.what.kind === 'fill') layer.what.settings.colour = [value, value, value];
    return layer;
  };
  if (readsLayers(found.where)) {
    // The mask needs the layers below: it is linked to over all of them.
    const { strength, invert } = found.where;
    const where = { ...everywhere(), strength, invert, link: layerId };
    return { ...empty, layers: [...document.layers, grey('outside', 0), { ...grey('inside', 1), where }] };
  }
  const where = coversAll(found.where) ? everywhere() : found.where;
  return { ...empty, layers: [grey('outside', 0), { ...grey('inside', 1), where }] };
}
