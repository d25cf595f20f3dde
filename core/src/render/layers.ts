/** From layers and masks to pixels. */
import { adjustment } from '../adjust/registry.ts';
import { blendMode } from '../blend/registry.ts';
import type { Layer, UmboDocument } from '../document/types.ts';
import { coversAll, maskReach, renderMask, type Scale } from '../mask/mask.ts';
import { expand, intersect, wholeOf, type Rect } from './geometry.ts';
import { createPlanes, readRaster, type Planes, type Raster } from './planes.ts';

/** Pixels worked on at once; small enough for a core's own cache. */
export const TILE = { width: 256, height: 64 } as const;
const TILE_PIXELS = TILE.width * TILE.height;

/** Whether the layer can change anything at all. */
export function acts(layer: Layer): boolean {
  if (!layer.on || layer.how.opacity === 0) return false;
  return layer.how.mode !== 'normal' || !adjustment(layer.what.kind).isNeutral(layer.what.settings);
}

/** A layer ready to be applied: its mask covers `area`; no mask means everywhere. */
export interface PreparedLayer {
  readonly layer: Layer;
  readonly mask: { readonly area: Rect; readonly values: Uint16Array } | null;
}

/** Buffers that one thread uses again and again. */
export interface Workspace {
  readonly below: Planes;
  readonly own: Planes;
  readonly where: Int32Array;
  readonly weight: Float32Array;
}

export function createWorkspace(): Workspace {
  return {
    below: createPlanes(TILE_PIXELS),
    own: createPlanes(TILE_PIXELS),
    where: new Int32Array(TILE_PIXELS),
    weight: new Float32Array(TILE_PIXELS),
  };
}

/**
 * Applies one layer to a tile in place:
 * `out = below + (blend(below, own) - below) * opacity * mask`; a pixel whose mask is 0 is not touched.
 * @param tile at most {@link TILE} pixels of the picture
 */
export function applyLayer({ layer, mask }: PreparedLayer, tile: Rect, pixels: Planes, work: Workspace): void {
  if (!acts(layer)) return;
  const { below, own, where, weight } = work;
  const opacity = layer.how.opacity;
  const content = adjustment(layer.what.kind);
  if (!mask && opacity === 1 && layer.how.mode === 'normal') {
    content.apply(layer.what.settings, pixels, tile.width * tile.height);
    return;
  }
  const size = tile.width * tile.height;
  const n = mask ? weigh(mask, tile, opacity, where, weight) : size;
  if (!mask) weight.fill(opacity, 0, size);
  if (n === 0) return;
  // Few pixels are brought together first; with many, leaving some out would cost more than it saves.
  const sparse = n < size * SPARSE;
  const planes = ['r', 'g', 'b'] as const;
  for (const plane of planes) {
    if (sparse) gather(pixels[plane], where, n, below[plane]);
    else below[plane].set(pixels[plane].subarray(0, size));
    own[plane].set(below[plane].subarray(0, sparse ? n : size));
  }
  const count = sparse ? n : size;
  if (!content.isNeutral(layer.what.settings)) content.apply(layer.what.settings, own, count);
  blendMode(layer.how.mode).apply(below, own, count);
  for (const plane of planes) {
    if (sparse) mixSome(pixels[plane], below[plane], own[plane], where, weight, n);
    else mixAll(pixels[plane], below[plane], own[plane], weight, size);
  }
}

/** Share of a tile under which its masked pixels are gathered. */
const SPARSE = 0.5;

/**
 * Writes the weight of every pixel of a tile, and the places of those that have one.
 * @returns how many have one
 */
function weigh(mask: NonNullable<PreparedLayer['mask']>, tile: Rect, opacity: number, where: Int32Array, weight: Float32Array): number {
  const scale = opacity / 65535;
  let n = 0;
  for (let y = 0, i = 0; y < tile.height; y++) {
    let m = (tile.y - mask.area.y + y) * mask.area.width + tile.x - mask.area.x;
    for (let x = 0; x < tile.width; x++, i++, m++) {
      const value = mask.values[m]!;
      weight[i] = value * scale;
      if (value > 0) where[n++] = i;
    }
  }
  return n;
}

function gather(from: Float32Array, where: Int32Array, n: number, to: Float32Array): void {
  for (let k = 0; k < n; k++) to[k] = from[where[k]!]!;
}

function mixAll(out: Float32Array, below: Float32Array, own: Float32Array, weight: Float32Array, n: number): void {
  for (let i = 0; i < n; i++) if (weight[i]! > 0) out[i] = below[i]! + (own[i]! - below[i]!) * weight[i]!;
}

function mixSome(out: Float32Array, below: Float32Array, own: Float32Array, where: Int32Array, weight: Float32Array, n: number): void {
  for (let k = 0; k < n; k++) {
    const i = where[k]!;
    out[i] = below[k]! + (own[k]! - below[k]!) * weight[i]!;
  }
}

/** Calls `each` for the tiles of a region, row by row. */
export function forEachTile(region: Rect, each: (tile: Rect) => void): void {
  const right = region.x + region.width;
  const bottom = region.y + region.height;
  for (let y = region.y; y < bottom; y += TILE.height)
    for (let x = region.x; x < right; x += TILE.width)
      each({ x, y, width: Math.min(TILE.width, right - x), height: Math.min(TILE.height, bottom - y) });
}

/** How many pixels around a region the photograph must be known for its layers. */
export function documentReach(document: UmboDocument, scale: Scale): number {
  return Math.max(0, ...document.layers.filter(acts).map((layer) => maskReach(layer.where, scale)));
}

/** Masks for a region, ready to apply; layers that cannot act are left out. */
export function prepareLayers(document: UmboDocument, scale: Scale, region: Rect, photograph: Raster): PreparedLayer[] {
  return document.layers.filter(acts).map((layer) => ({
    layer,
    mask: coversAll(layer.where) ? null : { area: region, values: renderMask(layer.where, scale, region, photograph) },
  }));
}

/**
 * Renders a region of the edited picture.
 * @param photograph the photograph at this scale, covering the region and {@link documentReach} around it, within the picture
 * @param emit receives every finished tile; its planes are used again afterwards
 */
export function renderRegion(
  document: UmboDocument,
  scale: Scale,
  region: Rect,
  photograph: Raster,
  emit: (tile: Rect, pixels: Planes) => void,
): void {
  const layers = prepareLayers(document, scale, region, photograph);
  const work = createWorkspace();
  const pixels = createPlanes(TILE_PIXELS);
  forEachTile(region, (tile) => {
    readRaster(photograph, tile, pixels);
    for (const layer of layers) applyLayer(layer, tile, pixels, work);
    emit(tile, pixels);
  });
}

/** The area of the photograph that rendering a region reads. */
export function neededArea(document: UmboDocument, scale: Scale, region: Rect): Rect {
  return intersect(expand(region, documentReach(document, scale)), wholeOf(scale.picture));
}
