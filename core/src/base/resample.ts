/** Changing a picture's size: halving for the pyramid, Lanczos for the last step to the size in work. */
import type { Rect, Size } from './geometry.ts';
import type { Raster } from './planes.ts';

/** The size of a pyramid level: halved `level` times, rounded up. */
export function levelSize(full: Size, level: number): Size {
  return { width: Math.ceil(full.width / 2 ** level), height: Math.ceil(full.height / 2 ** level) };
}

/** How many levels a picture has: down to at most 512 pixels on the longer side. */
export function levelCount(full: Size): number {
  let count = 1;
  while (Math.max(levelSize(full, count - 1).width, levelSize(full, count - 1).height) > 512) count++;
  return count;
}

/**
 * Averages 2 x 2 pixels of interleaved 16-bit RGB rows; a missing last row or column repeats its neighbour.
 * @param rows an even number of whole rows, or all that are left
 */
export function halveRows(rows: Uint16Array, width: number): Uint16Array {
  const height = rows.length / (width * 3);
  const w = Math.ceil(width / 2);
  const h = Math.ceil(height / 2);
  const out = new Uint16Array(w * h * 3);
  for (let y = 0, o = 0; y < h; y++) {
    const top = 2 * y * width * 3;
    const bottom = 2 * y + 1 < height ? top + width * 3 : top;
    for (let x = 0; x < w; x++) {
      const left = 6 * x;
      const right = 2 * x + 1 < width ? left + 3 : left;
      for (let c = 0; c < 3; c++, o++)
        out[o] = (rows[top + left + c]! + rows[top + right + c]! + rows[bottom + left + c]! + rows[bottom + right + c]! + 2) >> 2;
    }
  }
  return out;
}

/**
 * The level to start from for a picture of this width: the smallest that is at least as large.
 * @example
 * levelFor({ width: 6000, height: 4000 }, 1400); // → 2
 */
export function levelFor(full: Size, width: number): number {
  let level = 0;
  while (level + 1 < levelCount(full) && levelSize(full, level + 1).width >= width) level++;
  return level;
}

interface Taps {
  first: Int32Array;
  weights: Float64Array;
  count: number;
}

const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));

/** Lobes of the Lanczos kernel on either side. */
export const LOBES = 3;
/** The Lanczos kernel at a distance. Source: C. E. Duchon, "Lanczos filtering in one and two dimensions" (J. Applied Meteorology 18, 1979). */
export const lanczos = (x: number): number => (Math.abs(x) < LOBES ? sinc(x) * sinc(x / LOBES) : 0);

/**
 * Lanczos kernel with three lobes, stretched by the reduction so that it also filters.
 */
function lanczosTaps(fromSize: number, toSize: number, start: number, length: number): Taps {
  const step = fromSize / toSize;
  const stretch = Math.max(1, step);
  const count = Math.ceil(3 * stretch) * 2 + 1;
  const first = new Int32Array(length);
  const weights = new Float64Array(length * count);
  for (let i = 0; i < length; i++) {
    const centre = (start + i + 0.5) * step - 0.5;
    first[i] = Math.floor(centre) - (count >> 1) + 1;
    let sum = 0;
    for (let k = 0; k < count; k++) {
      const x = (first[i]! + k - centre) / stretch;
      const weight = lanczos(x);
      weights[i * count + k] = weight;
      sum += weight;
    }
    for (let k = 0; k < count; k++) weights[i * count + k]! /= sum;
  }
  return { first, weights, count };
}

/**
 * The part `area` of a picture, brought from one size to another.
 * @param source all of the picture at size `from`
 * @param out covers at least `area` in the picture at size `to`; only `area` is written
 */
export function resample(source: Raster, from: Size, to: Size, area: Rect, out: Raster): void {
  const tx = lanczosTaps(from.width, to.width, area.x, area.width);
  const ty = lanczosTaps(from.height, to.height, area.y, area.height);
  const at = (area.y - out.area.y) * out.area.width + area.x - out.area.x;
  for (const plane of ['r', 'g', 'b'] as const) resamplePlane(source[plane], from, tx, ty, area, out[plane], at, out.area.width);
}

function resamplePlane(
  source: Uint16Array,
  from: Size,
  tx: Taps,
  ty: Taps,
  area: Rect,
  out: Uint16Array,
  at: number,
  stride: number,
): void {
  const top = Math.max(0, ty.first[0]!);
  const bottom = Math.min(from.height, ty.first[area.height - 1]! + ty.count);
  const narrow = new Float32Array((bottom - top) * area.width);
  for (let y = top; y < bottom; y++) {
    const row = y * from.width;
    for (let x = 0; x < area.width; x++) {
      const first = tx.first[x]!;
      let sum = 0;
      for (let k = 0; k < tx.count; k++) {
        let sx = first + k;
        sx = sx < 0 ? 0 : sx >= from.width ? from.width - 1 : sx;
        sum += source[row + sx]! * tx.weights[x * tx.count + k]!;
      }
      narrow[(y - top) * area.width + x] = sum;
    }
  }
  const sums = new Float64Array(area.width);
  for (let y = 0; y < area.height; y++) {
    sums.fill(0);
    for (let k = 0; k < ty.count; k++) {
      let sy = ty.first[y]! + k;
      sy = sy < 0 ? 0 : sy >= from.height ? from.height - 1 : sy;
      const weight = ty.weights[y * ty.count + k]!;
      if (weight === 0) continue;
      const row = (sy - top) * area.width;
      for (let x = 0; x < area.width; x++) sums[x]! += narrow[row + x]! * weight;
    }
    const to = at + y * stride;
    for (let x = 0; x < area.width; x++) {
      const v = sums[x]! + 0.5;
      out[to + x] = v > 0 ? (v < 65535 ? v | 0 : 65535) : 0;
    }
  }
}

/** Interleaved 16-bit RGB rows into the planes of a raster that is as wide as the rows. @param row the first row's number */
export function spreadRows(rows: Uint16Array, raster: Raster, row: number): void {
  const { r, g, b } = raster;
  for (let i = 0, o = row * raster.area.width; i + 2 < rows.length; i += 3, o++) {
    r[o] = rows[i]!;
    g[o] = rows[i + 1]!;
    b[o] = rows[i + 2]!;
  }
}
