/** As much of a layer as clips no more than is allowed. */
import { createPlanes, writePlanes, type Planes } from '../base/planes.ts';
import type { Layer, UmboDocument } from '../document/types.ts';
import { clippedShares } from '../measure/clipped.ts';
import { renderRegion } from '../render/region.ts';
import { changeable, withLayer } from './layerDials.ts';
import type { ReadingPlace } from './place.ts';

/** How much of the picture a layer may newly clip. */
export interface ClipLimit {
  /** Share of the pixels, 0..1. */
  readonly share: number;
  /** The whole picture, small. */
  readonly whole: ReadingPlace;
}

/** Opacity is found to this. */
const STEPS = 7;

/** The layer at the greatest opacity, up to its own, at which it clips no more than the limit of what was not clipped without it. */
export function withinLimit(document: UmboDocument, layer: Layer, { share, whole }: ClipLimit, step: () => void): Layer {
  const { area, scale, photograph, pictures } = whole;
  const n = area.width * area.height;
  const at = (opacity: number): Layer => {
    const copy = changeable(layer);
    copy.how.opacity = opacity;
    return copy;
  };
  const seen = (opacity: number): Planes => {
    step();
    const out = createPlanes(n);
    renderRegion(withLayer(document, at(opacity)), scale, area, photograph, pictures, (tile, pixels) =>
      writePlanes(out, area, tile, pixels),
    );
    return out;
  };
  const before = seen(0);
  const clips = (opacity: number): boolean => clippedShares(before, seen(opacity), n).any > share;
  const most = layer.how.opacity;
  if (!clips(most)) return layer;
  let [low, high] = [0, most];
  for (let i = 0; i < STEPS; i++) {
    const middle = (low + high) / 2;
    if (clips(middle)) high = middle;
    else low = middle;
  }
  return at(Math.floor(low * 100) / 100);
}
