/**
 * The narrow table through which pixel functions can be made faster: each entry is a twin of a function of core, which stays the
 * definition and is used where there is no twin. A thread sets the table once, before it renders.
 */
import type { Planes } from './planes.ts';

export interface Acceleration {
  /** Turns the first `n` pixels in OKLab: (a, b) to (ca a - cb b, cb a + ca b), L to L keep + lift. */
  turnOklab: (pixels: Planes, n: number, ca: number, cb: number, keep: number, lift: number) => void;
  /** Turns the first `n` pixels in place from encoded sRGB to OKLab, and back; see `colour/oklabPlanes.ts`. */
  toOklab: (pixels: Planes, n: number) => void;
  fromOklab: (pixels: Planes, n: number) => void;
  /** Writes how far the hues of the first `n` pixels are in a range given as a table over the hue index; see the hue range part. */
  coverHues: (pixels: Planes, n: number, table: Float32Array, low: number, rise: number, out: Float32Array) => void;
}

export let acceleration: Acceleration | null = null;

export function accelerate(table: Acceleration | null): void {
  acceleration = table;
}
