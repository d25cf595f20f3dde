/** Projections, and what pixels are taken through them. */
import type { Rect } from './geometry.ts';
import { multiply, type Matrix } from './matrix.ts';

/** Interleaved samples of an area. */
export interface Samples {
  readonly area: Rect;
  /** Samples of a pixel. */
  readonly channels: number;
  /** 0..255 or 0..65535 */
  readonly values: Uint8Array | Uint8ClampedArray | Uint16Array;
}

/** Weights of a resampling kernel. */
export interface Kernel {
  /** Of how many pixels in a row; even. */
  readonly count: number;
  /** So many for each of {@link PHASES} + 1 places between two pixels; they add up to 1. */
  readonly weights: Float32Array;
}
/** Places between two pixels for which weights are known. */
export const PHASES = 1024;

/** Resamples `n` pixels of a row of the picture, the first of which is (x, y), into `values` from `o` on. */
export type WarpSpan = (x: number, y: number, n: number, across: Kernel, down: Kernel, values: Samples['values'], o: number) => void;

/** Where a projection takes a place; NaN beyond its horizon. */
export function project([a, b, c]: Matrix, x: number, y: number): [number, number] {
  const w = c[0] * x + c[1] * y + c[2];
  return w > 1e-9 ? [(a[0] * x + a[1] * y + a[2]) / w, (b[0] * x + b[1] * y + b[2]) / w] : [Number.NaN, Number.NaN];
}

export const scaling = (x: number, y: number): Matrix => [
  [x, 0, 0],
  [0, y, 0],
  [0, 0, 1],
];
export const shift = (x: number, y: number): Matrix => [
  [1, 0, x],
  [0, 1, y],
  [0, 0, 1],
];
/** One after the other. */
export const composed = (...steps: Matrix[]): Matrix => steps.reduce((done, step) => multiply(step, done));
