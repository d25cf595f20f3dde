import type { Raster } from '../render/planes.ts';

/** Bins of a histogram, the first for black. */
export const HISTOGRAM_BINS = 64;
export interface Histogram {
  r: Float32Array;
  g: Float32Array;
  b: Float32Array;
  /** By luminosity: Lum of W3C Compositing and Blending Level 1. */
  lum: Float32Array;
}

/**
 * @param weight how much each pixel counts, 0..65535, such as the values of a mask; left out: all alike
 * @returns shares of the pixels; each list adds up to 1, or holds only 0 where no pixel counts
 */
export function histogram({ r, g, b }: Raster, weight?: Uint16Array): Histogram {
  const bins = (): Float32Array => new Float32Array(HISTOGRAM_BINS);
  const out = { r: bins(), g: bins(), b: bins(), lum: bins() };
  const scale = HISTOGRAM_BINS / 65536;
  const total = weight ? weight.reduce((sum, w) => sum + w, 0) : r.length;
  for (let i = 0; i < r.length && total > 0; i++) {
    const share = (weight ? weight[i]! : 1) / total;
    const [x, y, z] = [r[i]!, g[i]!, b[i]!];
    out.r[(x * scale) | 0]! += share;
    out.g[(y * scale) | 0]! += share;
    out.b[(z * scale) | 0]! += share;
    out.lum[((0.3 * x + 0.59 * y + 0.11 * z) * scale) | 0]! += share;
  }
  return out;
}
