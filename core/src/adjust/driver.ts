/** What of a pixel chooses a colour of a map. */
import { Type } from '@sinclair/typebox';
import { srgbToOklab } from '../colour/oklab.ts';
import type { Planes } from '../render/planes.ts';

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

/**
 * Writes what drives the first `n` pixels: a channel, Lum of W3C Compositing and Blending Level 1, OKLab lightness, or OKLCh chroma as a
 * share of 0.4. Nominal 0..1.
 */
export function drive(driver: Driver, { r, g, b }: Planes, n: number, out: Float32Array): void {
  if (driver === 'red' || driver === 'green' || driver === 'blue') {
    out.set((driver === 'red' ? r : driver === 'green' ? g : b).subarray(0, n));
    return;
  }
  if (driver === 'luminosity') {
    for (let i = 0; i < n; i++) out[i] = 0.3 * r[i]! + 0.59 * g[i]! + 0.11 * b[i]!;
    return;
  }
  const lab = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    srgbToOklab(r[i]!, g[i]!, b[i]!, lab);
    out[i] = driver === 'lightness' ? lab[0]! : Math.sqrt(lab[1]! * lab[1]! + lab[2]! * lab[2]!) / 0.4;
  }
}
