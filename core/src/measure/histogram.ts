import { spaceOf } from '../colour/spaces.ts';
import type { ColourSpace } from '../base/space.ts';
import { drive, DRIVERS, type Driver } from '../adjust/driver.ts';
import { isHigh, isLow } from './clipped.ts';
import type { Measurement } from './measurement.ts';
import { createPlanes, readRaster, type Raster } from '../base/planes.ts';

/** Bins of a histogram, the first for 0. */
const HISTOGRAM_BINS = 64;

/** By everything that can drive a curve or a map; and the shares of the pixels in which a channel is at its lower or upper end. */
export type Histogram = Record<Driver, Float32Array> & { readonly clipped: { readonly low: number; readonly high: number } };

/**
 * @param weight how much each pixel counts, 0..65535, such as the values of a mask; left out: all alike
 * @returns shares of the pixels; each list adds up to 1, or holds only 0 where no pixel counts
 */
export function histogramOf(space: ColourSpace, picture: Raster, weight?: Uint16Array): Histogram {
  const n = picture.r.length;
  const total = weight ? weight.reduce((sum, w) => sum + w, 0) : n;
  const pixels = createPlanes(n);
  readRaster(picture, picture.area, pixels);
  const tones = new Float32Array(n);
  let [low, high] = [0, 0];
  for (let i = 0; i < n && total > 0; i++) {
    const share = (weight ? weight[i]! : 1) / total;
    const [r, g, b] = [pixels.r[i]!, pixels.g[i]!, pixels.b[i]!];
    if (isLow(Math.min(r, g, b))) low += share;
    if (isHigh(Math.max(r, g, b))) high += share;
  }
  const bins = Object.fromEntries(
    DRIVERS.map(([driver]) => {
      const bins = new Float32Array(HISTOGRAM_BINS);
      drive(space, driver, pixels, n, tones);
      for (let i = 0; i < n && total > 0; i++) {
        const bin = Math.min(HISTOGRAM_BINS - 1, (tones[i]! * HISTOGRAM_BINS) | 0);
        bins[bin] = bins[bin]! + (weight ? weight[i]! : 1) / total;
      }
      return [driver, bins];
    }),
  ) as Record<Driver, Float32Array>;
  return { ...bins, clipped: { low, high } };
}

export const histogram: Measurement<'histogram', object, Histogram> = {
  kind: 'histogram',
  needs: 'picture',
  measure: (_settings, { picture, weight, scale }) => histogramOf(spaceOf(scale), picture, weight ?? undefined),
};
