import { stretchArea, stretchOf } from '../base/stretch.ts';
import { clamp } from '../base/number.ts';
import type { ColourSpace } from '../base/space.ts';
import { expand, type Rect, type Size } from '../base/geometry.ts';
import { createPlanes, readRaster, type Raster } from '../base/planes.ts';
import { oklabOf } from './likeness.ts';
import type { MaskView, OklabPlanes } from './part.ts';

const known = new WeakMap<Raster, OklabPlanes>();

/** An overview in OKLab, as the region's pixels; made once. */
export function overviewOklab(space: ColourSpace, overview: Raster): OklabPlanes {
  let lab = known.get(overview);
  if (!lab) {
    const n = overview.area.width * overview.area.height;
    const planes = createPlanes(n);
    readRaster(overview, overview.area, planes);
    known.set(overview, (lab = oklabOf(space, planes, n)));
  }
  return lab;
}

/** Between which two of a row of `size` values places lie, and how near to the second. */
function between(places: Float64Array, size: number): { first: Int32Array; second: Int32Array; share: Float64Array } {
  const at = places.map((place) => clamp(place, 0, size - 1));
  const first = Int32Array.from(at);
  return { first, second: first.map((v) => Math.min(size - 1, v + 1)), share: at.map((v, i) => v - first[i]!) };
}

/**
 * Values of the overview's pixels at the pixels of the region in work, bilinear between them. The picture shows the photograph unturned:
 * what lies between is found once for each column and row.
 */
export function sampleSmooth(values: ArrayLike<number>, { width, height }: Size, view: MaskView, out: Float32Array): void {
  const { region, full } = view;
  const { toPhotograph } = stretchOf(view);
  const [perX, perY] = [width / full.width, height / full.height];
  const columns = between(
    new Float64Array(region.width).map((_, x) => (region.x + x + 0.5) * toPhotograph.x * perX - 0.5),
    width,
  );
  const rows = between(
    new Float64Array(region.height).map((_, y) => (region.y + y + 0.5) * toPhotograph.y * perY - 0.5),
    height,
  );
  const { first, second, share } = columns;
  for (let y = 0, i = 0; y < region.height; y++) {
    const [top, bottom, down] = [rows.first[y]! * width, rows.second[y]! * width, rows.share[y]!];
    for (let x = 0; x < region.width; x++, i++) {
      const [left, right, across] = [first[x]!, second[x]!, share[x]!];
      const upper = values[top + left]! + (values[top + right]! - values[top + left]!) * across;
      const lower = values[bottom + left]! + (values[bottom + right]! - values[bottom + left]!) * across;
      out[i] = upper + (lower - upper) * down;
    }
  }
}

/** The part of an overview of a size that {@link sampleSmooth} reads for the region in work, at least. */
export function sampledArea({ width, height }: Size, view: MaskView): Rect {
  const { region, full } = view;
  const seen = stretchArea(stretchOf(view).toPhotograph, region);
  return expand(stretchArea({ x: width / full.width, y: height / full.height }, seen), 1);
}
