/** From layers and masks to pixels. */
import type { ColourSpace } from '../base/space.ts';
import { spaceOf } from '../colour/spaces.ts';
import { adjustment, type AdjustmentContent } from '../adjust/registry.ts';
import { componentMix, passesAll } from '../blend/componentMix.ts';
import { blendMode } from '../blend/registry.ts';
import { limitTones } from '../blend/toneLimits.ts';
import { isSource, sourceKind } from '../content/registry.ts';
import { isAllTones } from '../document/defaults.ts';
import type { Layer } from '../document/types.ts';
import type { Rect, Scale, Place } from '../base/geometry.ts';
import { createPlanes, readRaster, type Planes, type Raster } from '../base/planes.ts';
import type { PreparedLayer } from './prepare.ts';

/** Pixels worked on at once; small enough for a core's own cache. */
export const TILE = { width: 256, height: 64 } as const;
const TILE_PIXELS = TILE.width * TILE.height;

/** Buffers that one thread uses again and again; groups in groups take further ones. */
export interface Workspace {
  readonly backdrop: Planes;
  readonly source: Planes;
  readonly extra: Planes;
  readonly cover: Float32Array;
  readonly backdropAlpha: Float32Array;
  readonly where: Int32Array;
  readonly weight: Float32Array;
  inner: Workspace | null;
}

export function createWorkspace(): Workspace {
  const floats = (): Float32Array => new Float32Array(TILE_PIXELS);
  return {
    backdrop: createPlanes(TILE_PIXELS),
    source: createPlanes(TILE_PIXELS),
    extra: createPlanes(TILE_PIXELS),
    cover: floats(),
    backdropAlpha: floats(),
    where: new Int32Array(TILE_PIXELS),
    weight: floats(),
    inner: null,
  };
}

const PLANES = ['r', 'g', 'b'] as const;

function copyPlanes(from: Planes, to: Planes, n: number): void {
  to.r.set(from.r.subarray(0, n));
  to.g.set(from.g.subarray(0, n));
  to.b.set(from.b.subarray(0, n));
}

/**
 * Applies one layer to a tile in place:
 * `out = backdrop + (mix(backdrop, blend(backdrop, source)) - backdrop) * opacity * mask * limits`; a pixel whose mask is 0 is not touched.
 * @param tile at most {@link TILE} pixels of the picture
 * @param alpha how far each pixel of a group that is rendered apart is covered, 0..1, changed in place; null for the picture itself
 */
export function applyLayer(
  prepared: PreparedLayer,
  tile: Rect,
  pixels: Planes,
  alpha: Float32Array | null,
  work: Workspace,
  scale: Scale,
): void {
  const { layer, mask, base } = prepared;
  const { what, how } = layer;
  const space = spaceOf(scale);
  const size = tile.width * tile.height;
  const { backdrop, source, where, weight } = work;
  const plain = how.mode === 'normal' && passesAll(how.letThrough);
  const isAdjustment = !('layers' in what) && !isSource(what);
  if (isAdjustment && plain && !mask && !base && how.opacity === 1 && !limited(layer)) {
    change(what, prepared.filtered, pixels, size, { scale, space, tile });
    return;
  }
  const n = mask ? weigh(mask, prepared.area, tile, how.opacity, where, weight) : size;
  if (!mask) weight.fill(how.opacity, 0, size);
  if (n === 0) return;
  if (base) weighByBase(base, tile, pixels, weight, innerOf(work), scale);
  if (isAdjustment) {
    // Few pixels are brought together first; with many, leaving some out would cost more than it saves.
    const sparse = n < size * SPARSE && !prepared.filtered && adjustment(what.kind).placed !== true;
    const count = sparse ? n : size;
    if (sparse) for (const plane of PLANES) gather(pixels[plane], where, n, backdrop[plane]);
    else copyPlanes(pixels, backdrop, size);
    copyPlanes(backdrop, source, count);
    change(what, prepared.filtered, source, count, { scale, space, tile });
    limit(layer, backdrop, source, count, weight, sparse ? where : null);
    blend(space, layer, backdrop, source, count);
    for (const plane of PLANES) {
      if (sparse) mixSome(pixels[plane], backdrop[plane], source[plane], where, weight, n);
      else mixAll(pixels[plane], backdrop[plane], source[plane], weight, size);
    }
    return;
  }
  if ('layers' in what) {
    if (what.kind === 'group' && what.settings.apart) applyIsolated(prepared, tile, pixels, alpha, work, scale);
    else applyPassThrough(prepared, tile, pixels, alpha, work, scale);
    return;
  }
  copyPlanes(pixels, backdrop, size);
  sourceKind(what.kind).draw(what.settings, { scale, space, tile, raster: prepared.source }, backdrop, source, work.cover);
  for (let i = 0; i < size; i++) weight[i] = weight[i]! * work.cover[i]!;
  limit(layer, backdrop, source, size, weight, null);
  const times = sourceKind(what.kind).times?.(what.settings);
  if (times !== undefined) overItself(space, layer, times, pixels, backdrop, source, weight, size, work.extra);
  else join(space, layer, pixels, alpha, backdrop, source, weight, size, work);
}

/** Changes pixels as an adjustment does, or brings what it made of them together with their surroundings. */
function change(what: AdjustmentContent, filtered: Raster | null, pixels: Planes, n: number, place: Place): void {
  const { isNeutral, apply } = adjustment(what.kind);
  if (filtered) readRaster(filtered, place.tile, pixels);
  else if (!isNeutral(what.settings)) apply?.(what.settings, pixels, n, place);
}

/** The picture below, blended over itself: each time over what the time before gave. */
function overItself(
  space: ColourSpace,
  layer: Layer,
  times: number,
  pixels: Planes,
  backdrop: Planes,
  source: Planes,
  weight: Float32Array,
  n: number,
  again: Planes,
): void {
  copyPlanes(source, again, n);
  for (let k = 1; k < times; k++) {
    blendMode(layer.how.mode).apply(backdrop, source, n);
    copyPlanes(source, backdrop, n);
    copyPlanes(again, source, n);
  }
  blendMode(layer.how.mode).apply(backdrop, source, n);
  if (!passesAll(layer.how.letThrough)) componentMix(space, again, source, n, layer.how.letThrough!);
  for (const plane of PLANES) mixAll(pixels[plane], again[plane], source[plane], weight, n);
}

const limited = ({ how }: Layer): boolean =>
  (how.limitsBelow !== undefined && !isAllTones(how.limitsBelow)) || (how.limitsSelf !== undefined && !isAllTones(how.limitsSelf));

function limit({ how }: Layer, backdrop: Planes, source: Planes, n: number, weight: Float32Array, where: Int32Array | null): void {
  if (how.limitsBelow && !isAllTones(how.limitsBelow)) limitTones(how.limitsBelow, backdrop, n, weight, where);
  if (how.limitsSelf && !isAllTones(how.limitsSelf)) limitTones(how.limitsSelf, source, n, weight, where);
}

/** Leaves in `source` what a layer makes of the picture below it, before opacity and masks. */
function blend(space: ColourSpace, { how }: Layer, backdrop: Planes, source: Planes, n: number): void {
  blendMode(how.mode).apply(backdrop, source, n);
  if (!passesAll(how.letThrough)) componentMix(space, backdrop, source, n, how.letThrough!);
}

/**
 * Brings a layer's own colours onto what is below: onto the picture, or onto a group that is rendered apart, where the formula is
 * that of W3C Compositing and Blending Level 1, sections 5.1 and 9.1.4: source-over with the blended colour where both cover.
 */
function join(
  space: ColourSpace,
  layer: Layer,
  pixels: Planes,
  alpha: Float32Array | null,
  backdrop: Planes,
  source: Planes,
  weight: Float32Array,
  n: number,
  work: Workspace,
): void {
  if (!alpha) {
    blend(space, layer, backdrop, source, n);
    for (const plane of PLANES) mixAll(pixels[plane], backdrop[plane], source[plane], weight, n);
    return;
  }
  copyPlanes(source, work.extra, n);
  blend(space, layer, backdrop, source, n);
  for (const plane of PLANES) overAll(pixels[plane], backdrop[plane], work.extra[plane], source[plane], alpha, weight, n);
  for (let i = 0; i < n; i++) alpha[i] = alpha[i]! + (1 - alpha[i]!) * weight[i]!;
}

function overAll(
  out: Float32Array,
  backdrop: Float32Array,
  source: Float32Array,
  blended: Float32Array,
  alpha: Float32Array,
  weight: Float32Array,
  n: number,
): void {
  for (let i = 0; i < n; i++) {
    const s = weight[i]!;
    if (!(s > 0)) continue;
    const b = alpha[i]!;
    out[i] = ((1 - s) * b * backdrop[i]! + s * (1 - b) * source[i]! + s * b * blended[i]!) / (b + s * (1 - b));
  }
}

const innerOf = (work: Workspace): Workspace => (work.inner ??= createWorkspace());

/** A group whose layers act on what is below it: the change of all of them together is what is blended. */
function applyPassThrough(
  { layer, layers }: PreparedLayer,
  tile: Rect,
  pixels: Planes,
  alpha: Float32Array | null,
  work: Workspace,
  scale: Scale,
): void {
  const { backdrop, source, weight, backdropAlpha } = work;
  const size = tile.width * tile.height;
  copyPlanes(pixels, backdrop, size);
  if (alpha) backdropAlpha.set(alpha.subarray(0, size));
  for (const child of layers) applyLayer(child, tile, pixels, alpha, innerOf(work), scale);
  copyPlanes(pixels, source, size);
  limit(layer, backdrop, source, size, weight, null);
  blend(spaceOf(scale), layer, backdrop, source, size);
  if (!alpha) {
    for (const plane of PLANES) mixWhole(pixels[plane], backdrop[plane], source[plane], weight, size);
    return;
  }
  // Between two states of a transparent picture: colours weighted by how far they cover.
  for (let i = 0; i < size; i++) {
    const w = weight[i]!;
    const [before, after] = [backdropAlpha[i]! * (1 - w), alpha[i]! * w];
    alpha[i] = before + after;
    for (const plane of PLANES)
      if (before + after > 0) pixels[plane][i] = (backdrop[plane][i]! * before + source[plane][i]! * after) / (before + after);
  }
}

/** A group that is rendered on transparency first. */
function applyIsolated(
  { layer, layers }: PreparedLayer,
  tile: Rect,
  pixels: Planes,
  alpha: Float32Array | null,
  work: Workspace,
  scale: Scale,
): void {
  const { backdrop, source, weight, cover } = work;
  const size = tile.width * tile.height;
  for (const plane of PLANES) source[plane].fill(0, 0, size);
  cover.fill(0, 0, size);
  for (const child of layers) applyLayer(child, tile, source, cover, innerOf(work), scale);
  copyPlanes(pixels, backdrop, size);
  for (let i = 0; i < size; i++) weight[i] = weight[i]! * cover[i]!;
  limit(layer, backdrop, source, size, weight, null);
  join(spaceOf(scale), layer, pixels, alpha, backdrop, source, weight, size, work);
}

/** Share of a tile under which its masked pixels are gathered. */
const SPARSE = 0.5;

/**
 * Writes the weight of every pixel of a tile, and the places of those that have one.
 * @returns how many have one
 */
function weigh(mask: Uint16Array, area: Rect, tile: Rect, opacity: number, where: Int32Array, weight: Float32Array): number {
  const scale = opacity / 65535;
  let n = 0;
  for (let y = 0, i = 0; y < tile.height; y++) {
    let m = (tile.y - area.y + y) * area.width + tile.x - area.x;
    for (let x = 0; x < tile.width; x++, i++, m++) {
      const value = mask[m]!;
      weight[i] = value * scale;
      if (value > 0) where[n++] = i;
    }
  }
  return n;
}

/**
 * Multiplies weights by how far the layer that this one is clipped to covers the pixels: by its mask, its opacity and its own
 * transparency. Its blend mode and its limits of tones do not count.
 */
function weighByBase(base: PreparedLayer, tile: Rect, pixels: Planes, weight: Float32Array, work: Workspace, scale: Scale): void {
  const { layer, mask, area, source } = base;
  const size = tile.width * tile.height;
  for (let i = 0; i < size; i++) weight[i] = weight[i]! * layer.how.opacity;
  for (const plane of [mask, source?.a]) {
    if (!plane) continue;
    for (let y = 0, i = 0; y < tile.height; y++) {
      let m = (tile.y - area.y + y) * area.width + tile.x - area.x;
      for (let x = 0; x < tile.width; x++, i++, m++) weight[i] = (weight[i]! * plane[m]!) / 65535;
    }
  }
  const cover = coverOf(base, tile, pixels, work, scale);
  if (cover) for (let i = 0; i < size; i++) weight[i] = weight[i]! * cover[i]!;
}

/** How far a layer's colours cover the pixels of a tile, where that is not kept of it; null where they cover all. */
function coverOf(
  { layer: { what }, layers, source }: PreparedLayer,
  tile: Rect,
  pixels: Planes,
  work: Workspace,
  scale: Scale,
): Float32Array | null {
  const size = tile.width * tile.height;
  if ('layers' in what) {
    if (what.kind !== 'group' || !what.settings.apart) return null;
    for (const plane of PLANES) work.source[plane].fill(0, 0, size);
    work.cover.fill(0, 0, size);
    for (const child of layers) applyLayer(child, tile, work.source, work.cover, innerOf(work), scale);
    return work.cover;
  }
  if (!isSource(what) || source) return null;
  copyPlanes(pixels, work.backdrop, size);
  sourceKind(what.kind).draw(what.settings, { scale, space: spaceOf(scale), tile, raster: null }, work.backdrop, work.source, work.cover);
  return work.cover;
}

function gather(from: Float32Array, where: Int32Array, n: number, to: Float32Array): void {
  for (let k = 0; k < n; k++) to[k] = from[where[k]!]!;
}

function mixAll(out: Float32Array, backdrop: Float32Array, source: Float32Array, weight: Float32Array, n: number): void {
  for (let i = 0; i < n; i++) if (weight[i]! > 0) out[i] = backdrop[i]! + (source[i]! - backdrop[i]!) * weight[i]!;
}

/** As {@link mixAll}, where `out` may hold something else already. */
function mixWhole(out: Float32Array, backdrop: Float32Array, source: Float32Array, weight: Float32Array, n: number): void {
  for (let i = 0; i < n; i++) {
    const w = weight[i]!;
    out[i] = w > 0 ? (w < 1 ? backdrop[i]! + (source[i]! - backdrop[i]!) * w : source[i]!) : backdrop[i]!;
  }
}

function mixSome(
  out: Float32Array,
  backdrop: Float32Array,
  source: Float32Array,
  where: Int32Array,
  weight: Float32Array,
  n: number,
): void {
  for (let k = 0; k < n; k++) {
    const i = where[k]!;
    out[i] = backdrop[k]! + (source[k]! - backdrop[k]!) * weight[i]!;
  }
}

/** Shows only a share of the whole stack. @param photograph the tile's pixels before any layer */
export function easeStack(strength: number, photograph: Planes, pixels: Planes, n: number): void {
  for (const plane of PLANES) {
    const [from, to] = [photograph[plane], pixels[plane]];
    for (let i = 0; i < n; i++) to[i] = from[i]! + (to[i]! - from[i]!) * strength;
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

/** Applies layers to all of an area, in place. */
export function applyLayers(layers: readonly PreparedLayer[], area: Rect, planes: Planes, work: Workspace, scale: Scale): void {
  if (layers.length === 0) return;
  const pixels = createPlanes(TILE_PIXELS);
  forEachTile(area, (tile) => {
    const row = (y: number): number => (tile.y - area.y + y) * area.width + tile.x - area.x;
    for (const plane of PLANES)
      for (let y = 0; y < tile.height; y++) pixels[plane].set(planes[plane].subarray(row(y), row(y) + tile.width), y * tile.width);
    for (const layer of layers) applyLayer(layer, tile, pixels, null, work, scale);
    for (const plane of PLANES)
      for (let y = 0; y < tile.height; y++) planes[plane].set(pixels[plane].subarray(y * tile.width, (y + 1) * tile.width), row(y));
  });
}

/** Applies layers to the tiles of a region. */
export function renderTiles(
  layers: readonly PreparedLayer[],
  scale: Scale,
  region: Rect,
  photograph: Raster,
  work: Workspace,
  emit: (tile: Rect, pixels: Planes) => void,
): void {
  const pixels = createPlanes(TILE_PIXELS);
  forEachTile(region, (tile) => {
    readRaster(photograph, tile, pixels);
    for (const layer of layers) applyLayer(layer, tile, pixels, null, work, scale);
    emit(tile, pixels);
  });
}
