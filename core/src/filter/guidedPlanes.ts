/**
 * The guided filter with one plane as guide: K. He, J. Sun, X. Tang, "Guided Image Filtering" (IEEE PAMI 35, 2013), equations 5, 6 and 8.
 * Smooths what varies less than `epsilon`, and keeps the guide's edges. For wide windows its coefficients are found on the means of blocks
 * and interpolated, as in K. He, J. Sun, "Fast Guided Filter" (2015). Blocks lie at the same places whatever the region, and all sums are of
 * whole numbers: a pixel's result does not depend on the region it was computed in, as long as that reaches {@link guidedReach} further.
 */
import { clamp } from '../base/number.ts';
import type { Rect } from '../base/geometry.ts';
import { boxSums } from './box.ts';

const COEFFICIENT = 1 << 14;

/** Pixels that are worked on at once: sums take many times what their planes take. */
const STRIP = 1 << 19;

/** Side of the blocks for windows of a radius. */
const blockSide = (radius: number): number => Math.max(1, Math.floor(radius / 4));

/** How many pixels away a pixel can still count. */
export function guidedReach(radius: number): number {
  const side = blockSide(radius);
  return side === 1 ? 2 * radius : 2 * Math.round(radius / side) * side + 3 * side;
}

/** A plane as the means of its blocks, rounded. */
function blockMeans(plane: Uint16Array, area: Rect, side: number, blocks: Rect): Float64Array {
  if (side === 1) return new Float64Array(plane);
  const sums = new Float64Array(blocks.width * blocks.height);
  const counts = new Uint32Array(sums.length);
  for (let y = 0, i = 0; y < area.height; y++) {
    const row = (Math.floor((area.y + y) / side) - blocks.y) * blocks.width - blocks.x;
    for (let x = 0; x < area.width; x++, i++) {
      const at = row + Math.floor((area.x + x) / side);
      sums[at] = sums[at]! + plane[i]!;
      counts[at] = counts[at]! + 1;
    }
  }
  for (let i = 0; i < sums.length; i++) sums[i] = Math.round(sums[i]! / counts[i]!);
  return sums;
}

/**
 * @param planes 0..65535, the values of `area`; not changed
 * @param guide the same for the plane whose edges are kept; a plane itself for smoothing that keeps its own
 * @param radius of the square windows, in whole pixels, at least 1
 * @param epsilon how much variance of the guide (0..1 squared) counts as none
 * @returns the filtered planes, about 0..65535
 */
export function guidedPlanes(
  planes: readonly Uint16Array[],
  guide: Uint16Array,
  area: Rect,
  radius: number,
  epsilon: number,
): Float32Array[] {
  const { x, y, width, height } = area;
  const reach = guidedReach(radius);
  const rows = Math.max(4 * reach, Math.floor(STRIP / width));
  if (rows >= height) return guidedStrip(planes, guide, area, radius, epsilon);
  const out = planes.map(() => new Float32Array(guide.length));
  for (let top = 0; top < height; top += rows) {
    const [from, to] = [Math.max(0, top - reach), Math.min(height, top + rows + reach)];
    const part = (plane: Uint16Array): Uint16Array => plane.subarray(from * width, to * width);
    const guidePart = part(guide);
    const parts = planes.map((plane) => (plane === guide ? guidePart : part(plane)));
    const made = guidedStrip(parts, guidePart, { x, y: y + from, width, height: to - from }, radius, epsilon);
    for (const [i, plane] of made.entries())
      out[i]!.set(plane.subarray((top - from) * width, (Math.min(height, top + rows) - from) * width), top * width);
  }
  return out;
}

function guidedStrip(planes: readonly Uint16Array[], guide: Uint16Array, area: Rect, radius: number, epsilon: number): Float32Array[] {
  const side = blockSide(radius);
  const [left, top] = [Math.floor(area.x / side), Math.floor(area.y / side)];
  const blocks: Rect = {
    x: left,
    y: top,
    width: Math.ceil((area.x + area.width) / side) - left,
    height: Math.ceil((area.y + area.height) / side) - top,
  };
  const n = blocks.width * blocks.height;
  const counts = new Float64Array(n);
  const sums = (values: Float64Array): Float64Array => boxSums(values, blocks.width, blocks.height, Math.round(radius / side), counts);
  const product = new Float64Array(n);
  const sumsOf = (x: Float64Array, y: Float64Array): Float64Array => {
    for (let i = 0; i < n; i++) product[i] = x[i]! * y[i]!;
    return sums(product);
  };
  const own = blockMeans(guide, area, side, blocks);
  const sumI = sums(own);
  const sumII = sumsOf(own, own);
  const e = epsilon * 65535 * 65535;
  return planes.map((plane) => {
    const p = plane === guide ? own : blockMeans(plane, area, side, blocks);
    const sumP = plane === guide ? sumI : sums(p);
    const sumIP = plane === guide ? sumII : sumsOf(own, p);
    const [slopes, offsets] = [new Float64Array(n), new Float64Array(n)];
    for (let i = 0; i < n; i++) {
      const share = 1 / counts[i]!;
      const meanI = sumI[i]! * share;
      const meanP = sumP[i]! * share;
      const slope = (sumIP[i]! * share - meanI * meanP) / (sumII[i]! * share - meanI * meanI + e);
      slopes[i] = Math.round(slope * COEFFICIENT);
      offsets[i] = Math.round((meanP - slope * meanI) * 16);
    }
    const [a, b] = [sums(slopes), sums(offsets)];
    for (let i = 0; i < n; i++) {
      a[i] = a[i]! / counts[i]! / COEFFICIENT;
      b[i] = b[i]! / counts[i]! / 16;
    }
    return side === 1 ? linear(guide, a, b) : linearOnBlocks(guide, area, a, b, side, blocks);
  });
}

function linear(guide: Uint16Array, a: Float64Array, b: Float64Array): Float32Array {
  const out = new Float32Array(guide.length);
  for (let i = 0; i < out.length; i++) out[i] = a[i]! * guide[i]! + b[i]!;
  return out;
}

/** With coefficients interpolated between the blocks' middles. */
function linearOnBlocks(guide: Uint16Array, area: Rect, a: Float64Array, b: Float64Array, side: number, blocks: Rect): Float32Array {
  const out = new Float32Array(guide.length);
  for (let y = 0, i = 0; y < area.height; y++) {
    const v = clamp((area.y + y + 0.5) / side - 0.5 - blocks.y, 0, blocks.height - 1);
    const upper = (v | 0) * blocks.width;
    const lower = Math.min(blocks.height - 1, (v | 0) + 1) * blocks.width;
    const fy = v - (v | 0);
    for (let x = 0; x < area.width; x++, i++) {
      const u = clamp((area.x + x + 0.5) / side - 0.5 - blocks.x, 0, blocks.width - 1);
      const u0 = u | 0;
      const u1 = u0 + 1 < blocks.width ? u0 + 1 : u0;
      const fx = u - u0;
      const slope = (a[upper + u0]! * (1 - fx) + a[upper + u1]! * fx) * (1 - fy) + (a[lower + u0]! * (1 - fx) + a[lower + u1]! * fx) * fy;
      const offset = (b[upper + u0]! * (1 - fx) + b[upper + u1]! * fx) * (1 - fy) + (b[lower + u0]! * (1 - fx) + b[lower + u1]! * fx) * fy;
      out[i] = slope * guide[i]! + offset;
    }
  }
  return out;
}
