/**
 * The narrow table through which pixel functions can be made faster: each entry is a twin of a function of core, which stays the
 * definition and is used where there is no twin. A thread sets the table once, before it renders.
 */
import type { Samples, WarpSpan } from './framing.ts';
import type { Rect } from './geometry.ts';
import type { Matrix } from './matrix.ts';
import type { ColourSpace } from './space.ts';
import type { Planes } from './planes.ts';

/** The matrix of a turn with its stretch, and the share of the way to white (above 0) or black (below 0), over the hue index. */
export interface HueTables {
  readonly ca: Float32Array;
  readonly cb: Float32Array;
  readonly lift: Float32Array;
}

/** What is added in OKLab to each tone, over the zone index of its lightness. */
export interface ToneShifts {
  readonly l: Float32Array;
  readonly a: Float32Array;
  readonly b: Float32Array;
}

/** Colours at the points of a cube's lattice. */
export interface Lattice {
  /** Points along each side, 2..65. */
  readonly size: number;
  readonly min: readonly [number, number, number];
  readonly max: readonly [number, number, number];
  /** size^3 times red, green, blue, nominal 0..1; red running fastest. */
  readonly values: Float32Array;
}

export interface Acceleration {
  /** Turns the first `n` pixels in OKLab: (a, b) to (ca a - cb b, cb a + ca b), L to L keep + lift. */
  rotateOklab: (space: ColourSpace, pixels: Planes, n: number, ca: number, cb: number, keep: number, lift: number) => void;
  /** Turns the first `n` pixels in place from encoded RGB to OKLab, and back; see `colour/oklabPlanes.ts`. */
  toOklab: (space: ColourSpace, pixels: Planes, n: number) => void;
  fromOklab: (space: ColourSpace, pixels: Planes, n: number) => void;
  /** Turns the first `n` pixels by their own hue, see `adjust/rotateByHue.ts`. @param certain 1 / the chroma from which a hue counts fully */
  rotateHues: (space: ColourSpace, pixels: Planes, n: number, tables: HueTables, certain: number) => void;
  /** Changes the chroma of the first `n` pixels, see `adjust/vibrance.ts`. */
  gainChroma: (space: ColourSpace, pixels: Planes, n: number, all: number, weak: number, strong: number) => void;
  /** Moves what is like a colour of the first `n` pixels, see `adjust/colourSwap.ts`. */
  moveNear: (
    space: ColourSpace,
    pixels: Planes,
    n: number,
    from: ArrayLike<number>,
    by: readonly number[],
    outer: number,
    fade: number,
  ) => void;
  /** Shifts the first `n` pixels by their lightness, see `adjust/threeWayTint.ts`. */
  shiftTones: (space: ColourSpace, pixels: Planes, n: number, shifts: ToneShifts) => void;
  /** Sends the first `n` pixels through a table of colours, see `adjust/lut3d.ts`. */
  throughLut: (pixels: Planes, n: number, lut: Lattice) => void;
  /** A matrix, and an offset to all channels, on the first `n` pixels in linear light; see `colour/inLight.ts`. */
  inLight: (space: ColourSpace, pixels: Planes, n: number, matrix: Matrix, offset: number) => void;
  /** Turns the first `n` pixels from one space into another, by the matrix between their light; see `colour/betweenSpaces.ts`. */
  between: (from: ColourSpace, to: ColourSpace, pixels: Planes, n: number, matrix: Matrix) => void;
  /** Sends the first `n` values through a table over their square root; see `adjust/table.ts`. */
  throughTable: (plane: Float32Array, n: number, table: Float32Array, steps: number) => void;
  /** Opens samples of a photograph for resampling, until the next are opened; see `geometry/warp.ts`. @param whole all of the photograph */
  openTurn: (source: Samples, whole: Rect, toPhotograph: Matrix, most: number) => WarpSpan;
  /** Writes how far the hues of the first `n` pixels are in a range given as a table over the hue index; see the hue range part. */
  coverHues: (space: ColourSpace, pixels: Planes, n: number, table: Float32Array, low: number, rise: number, out: Float32Array) => void;
}

export let acceleration: Acceleration | null = null;

export function accelerate(table: Acceleration | null): void {
  acceleration = table;
}
