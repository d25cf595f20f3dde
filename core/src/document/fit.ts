/** Bringing layers to a photograph of another size: rules stay as they are, positions and radii are scaled. */
import { adjustment } from '../adjust/registry.ts';
import { fitMask } from '../mask/fitMask.ts';
import { source, isSource } from '../content/registry.ts';
import type { Size } from '../render/geometry.ts';
import { childrenOf } from './tree.ts';
import type { Layer } from './types.ts';

/** From pixels of one photograph to pixels of another. */
export interface Fit {
  readonly x: (v: number) => number;
  readonly y: (v: number) => number;
  /** For lengths without a direction: radii, the size of a brush. */
  readonly size: (v: number) => number;
}

function fitBetween(from: Size, to: Size): Fit {
  const [sx, sy] = [to.width / from.width, to.height / from.height];
  const both = Math.sqrt(sx * sy);
  return { x: (v) => v * sx, y: (v) => v * sy, size: (v) => v * both };
}

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
