/** From one RGB space to another. Whites are adapted by Bradford, as CSS Color 4, section 11 does. */
import { acceleration } from '../base/acceleration.ts';
import { multiply, times, type Matrix, type Row } from '../base/matrix.ts';
import { unit } from '../base/number.ts';
import type { Planes } from '../base/planes.ts';
import type { ColourSpace } from '../base/space.ts';
import type { Colour } from './colour.ts';
import { decode, encode } from './transfer.ts';
import { adaptation } from './whitePoint.ts';

const made = new WeakMap<ColourSpace, WeakMap<ColourSpace, Matrix>>();

/** From light of a space to light of another. */
export function matrixBetween(from: ColourSpace, to: ColourSpace): Matrix {
  let known = made.get(from);
  if (!known) made.set(from, (known = new WeakMap()));
  let matrix = known.get(to);
  if (!matrix) known.set(to, (matrix = multiply(to.fromXyz, multiply(adaptation(from.white, to.white), from.toXyz))));
  return matrix;
}

/**
 * An encoded colour of a space as one of another; outside 0..1 where that does not hold it.
 * @example
 * colourBetween(spaces['display-p3'], srgb, [1, 0, 0]).map((v) => v.toFixed(3)); // → ['1.093', '-0.227', '-0.150']
 */
export function colourBetween(from: ColourSpace, to: ColourSpace, colour: Readonly<Colour>): Colour {
  if (from === to) return [...colour];
  return times(matrixBetween(from, to), colour.map(from.toLight) as unknown as Row).map(to.fromLight) as Colour;
}

/** Turns the first `n` pixels, encoded, from one space into another, in place. Values outside 0..1 stay so. */
export function planesBetween(from: ColourSpace, to: ColourSpace, pixels: Planes, n: number): void {
  if (from !== to) (acceleration?.between ?? between)(from, to, pixels, n, matrixBetween(from, to));
}

/** The first `n` pixels in another space: the same planes where that is theirs, else copies, held at its ends where it does not hold them. */
export function heldIn(to: ColourSpace, space: ColourSpace, pixels: Planes, n: number): Planes {
  if (space === to) return pixels;
  const copies = { r: pixels.r.slice(0, n), g: pixels.g.slice(0, n), b: pixels.b.slice(0, n) };
  planesBetween(space, to, copies, n);
  for (const plane of [copies.r, copies.g, copies.b]) for (let i = 0; i < n; i++) plane[i] = unit(plane[i]!);
  return copies;
}

/** The definition of {@link Acceleration.between}. */
export function between(from: ColourSpace, to: ColourSpace, { r, g, b }: Planes, n: number, matrix: Matrix): void {
  const [[m00, m01, m02], [m10, m11, m12], [m20, m21, m22]] = matrix;
  const [light, encoded] = [from.tables, to.tables];
  for (let i = 0; i < n; i++) {
    const x = decode(light, r[i]!);
    const y = decode(light, g[i]!);
    const z = decode(light, b[i]!);
    r[i] = encode(encoded, m00 * x + m01 * y + m02 * z);
    g[i] = encode(encoded, m10 * x + m11 * y + m12 * z);
    b[i] = encode(encoded, m20 * x + m21 * y + m22 * z);
  }
}
