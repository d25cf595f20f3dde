import type { Raster } from '../base/planes.ts';

/** Lum of W3C Compositing and Blending Level 1 of every pixel, 0..65535. */
export function luminosityPlane({ r, g, b }: Raster): Uint16Array {
  const out = new Uint16Array(r.length);
  for (let i = 0; i < out.length; i++) out[i] = 0.3 * r[i]! + 0.59 * g[i]! + 0.11 * b[i]! + 0.5;
  return out;
}

/** A 16-bit value from a number that may lie outside. */
export const hold16 = (v: number): number => (v > 0 ? (v < 65535 ? v + 0.5 : 65535) : 0);
