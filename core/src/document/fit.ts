/** Bringing layers to a photograph of another size: rules stay as they are, positions and radii are scaled. */
import { fitBetween, type Fit } from '../base/fit.ts';
import { adjustment } from '../adjust/registry.ts';
import { fitMask } from '../mask/fitMask.ts';
import { source, isSource } from '../content/registry.ts';
import type { Size } from '../base/geometry.ts';
import { childrenOf } from './tree.ts';
import type { Layer } from './types.ts';

/** A copy of a layer, with all that is in it, for a photograph of another size. */
export function fitLayer(layer: Layer, from: Size, to: Size): Layer {
  const copy = structuredClone(layer);
  if (from.width !== to.width || from.height !== to.height) fitInPlace(copy, fitBetween(from, to));
  return copy;
}

function fitInPlace(layer: Layer, fit: Fit): void {
  fitMask(layer.where, fit);
  const { what } = layer;
  if (isSource(what)) source(what.kind).fit?.(what.settings, fit);
  else if (!('layers' in what)) adjustment(what.kind).fit?.(what.settings, fit);
  for (const child of childrenOf(layer)) fitInPlace(child, fit);
}
