/** What of a pixel chooses a colour of a map. */
import type { ColourSpace } from '../base/space.ts';
import { lumOf } from '../colour/luminosity.ts';
import { Type } from '@sinclair/typebox';
import type { Colour } from '../colour/colour.ts';
import { rgbToOklch } from '../colour/oklab.ts';
import { planesToOklab } from '../colour/oklabPlanes.ts';
import { createPlanes, type Planes } from '../base/planes.ts';

export const driverSchema = Type.Union(
  (['luminosity', 'red', 'green', 'blue', 'lightness', 'chroma'] as const).map((id) => Type.Literal(id)),
);
export type Driver = (typeof driverSchema)['static'];

export const DRIVERS: readonly (readonly [Driver, string])[] = [
  ['luminosity', 'Luminosity'],
  ['red', 'Red'],
  ['green', 'Green'],
  ['blue', 'Blue'],
  ['lightness', 'Lightness'],
  ['chroma', 'Chroma'],
];

/** OKLCh chroma that counts as 1. */
export const FULL_CHROMA = 0.4;

/**
 * Writes what drives the first `n` pixels: a channel, Lum of W3C Compositing and Blending Level 1, OKLab lightness, or OKLCh chroma as a
 * share of {@link FULL_CHROMA}. Nominal 0..1.
 */
export function drive(space: ColourSpace, driver: Driver, { r, g, b }: Planes, n: number, out: Float32Array): void {
  if (driver === 'red' || driver === 'green' || driver === 'blue') {
    out.set((driver === 'red' ? r : driver === 'green' ? g : b).subarray(0, n));
    return;
  }
  if (driver === 'luminosity') {
    for (let i = 0; i < n; i++) out[i] = lumOf(r[i]!, g[i]!, b[i]!);
    return;
  }
  const lab = createPlanes(n);
  lab.r.set(r.subarray(0, n));
  lab.g.set(g.subarray(0, n));
  lab.b.set(b.subarray(0, n));
  planesToOklab(space, lab, n);
  if (driver === 'lightness') out.set(lab.r);
  else for (let i = 0; i < n; i++) out[i] = Math.sqrt(lab.g[i]! * lab.g[i]! + lab.b[i]! * lab.b[i]!) / FULL_CHROMA;
}

/** What drives one colour, see {@link drive}. */
export function driverOf(space: ColourSpace, driver: Driver, [r, g, b]: Colour): number {
  if (driver === 'red') return r;
  if (driver === 'green') return g;
  if (driver === 'blue') return b;
  if (driver === 'luminosity') return lumOf(r, g, b);
  const { l, c } = rgbToOklch(space, r, g, b);
  return driver === 'lightness' ? l : c / FULL_CHROMA;
}
