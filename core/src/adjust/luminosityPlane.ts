import { lumOf } from '../colour/luminosity.ts';
import type { Raster } from '../base/planes.ts';

/** Lum of W3C Compositing and Blending Level 1 of every pixel, 0..65535. */
export function luminosityPlane({ r, g, b }: Raster): Uint16Array {
  const out = new Uint16Array(r.length);
  for (let i = 0; i < out.length; i++) out[i] = lumOf(r[i]!, g[i]!, b[i]!) + 0.5;
  return out;
}

/** A 16-bit value from a number that may lie outside. */
export const hold16 = (v: number): number => (v > 0 ? (v < 65535 ? v + 0.5 : 65535) : 0);
