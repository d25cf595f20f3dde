/** Pixels and pictures to try adjustments on. */
import { srgb, type Colour } from '@umbo/core/colour';
import { adjustment, adjustments, type AdjustmentContent, type SettingsOf } from '@umbo/core/adjust';
import {
  createPlanes,
  createRaster,
  noPictures,
  quantise,
  wholeOf,
  writeRaster,
  type Planes,
  type Raster,
  type Rect,
  type Size,
} from '@umbo/core/base';
import { adjustmentLayer, emptyDocument, type Layer } from '@umbo/core/document';
import { renderRegion } from '@umbo/core/render';

type Kind = AdjustmentContent['kind'];
export const everyAdjustment = adjustments.map(({ kind }) => ({ ...adjustment(kind), kind: kind as Kind }));
export const chance = (seed: number) => {
  let state = seed;
  return (): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
};

/** Random colours with all greys and primaries among them. */
export function colours(n: number, seed = 7): Planes {
  const random = chance(seed);
  const planes = createPlanes(n);
  for (let i = 0; i < n; i++) for (const plane of [planes.r, planes.g, planes.b]) plane[i] = i % 11 === 0 ? (i % 256) / 255 : random();
  return planes;
}

/** One kind applied to pixels of their own. */
export function applied<K extends Kind>(kind: K, settings: Partial<SettingsOf<K>>, pixels: Planes): Planes {
  const n = pixels.r.length;
  const out = { r: pixels.r.slice(), g: pixels.g.slice(), b: pixels.b.slice() };
  const size = { width: n, height: 1 };
  const { defaults, apply } = adjustment(kind);
  apply!({ ...(structuredClone(defaults) as object), ...settings }, out, n, {
    scale: { picture: size, full: size },
    space: srgb,
    tile: wholeOf(size),
  });
  return out;
}
export const one = (colour: Colour): Planes => ({
  r: Float32Array.of(colour[0]),
  g: Float32Array.of(colour[1]),
  b: Float32Array.of(colour[2]),
});
export const first = ({ r, g, b }: Planes): Colour => [r[0]!, g[0]!, b[0]!];
export const lum = ([r, g, b]: Colour): number => 0.3 * r + 0.59 * g + 0.11 * b;

/** A picture of waves with edges and grain. */
export function picture({ width, height }: Size, seed = 3): Raster {
  const random = chance(seed);
  const raster = createRaster(wholeOf({ width, height }));
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const edge = (Math.floor(x / 23) + Math.floor(y / 17)) % 2 === 0 ? 0.25 : 0;
    for (const [c, plane] of [raster.r, raster.g, raster.b].entries())
      plane[i] = quantise(0.35 + edge + 0.25 * Math.sin(x / (9 + 4 * c) + y / 21 + c) + 0.05 * (random() - 0.5), 65535);
  }
  return raster;
}

export function rendered(layers: Layer[], source: Raster, full: Size, region: Rect = source.area): Raster {
  const out = createRaster(region);
  const { width, height } = source.area;
  renderRegion({ ...emptyDocument(full), layers }, { picture: { width, height }, full }, region, source, noPictures, (tile, pixels) =>
    writeRaster(out, tile, pixels),
  );
  return out;
}
export function layerOf<K extends Kind>(kind: K, settings: Partial<SettingsOf<K>> = {}, id = kind as string): Layer {
  const layer = adjustmentLayer(id, kind, id);
  Object.assign(layer.what.settings, settings);
  layer.how.mode = 'normal';
  return layer;
}
