import { HUE_INDEX_STEPS, hueIndex, hueOfIndex } from '../colour/hueIndex.ts';
import { srgbToOklab } from '../colour/oklab.ts';
import type { Raster } from '../render/planes.ts';

/** Number of bins round the OKLCh hue circle, 2 degrees each, the first from 0 degrees. */
export const CENSUS_BINS = 180;

/**
 * Which hues a picture contains, by amount: the chroma of all pixels of a hue, so that greys do not count.
 * @returns CENSUS_BINS shares that add up to 1, or all 0 for a picture without any chroma
 */
export function hueCensus(picture: Raster): Float32Array {
  const bins = new Float64Array(CENSUS_BINS);
  const binOf = Uint8Array.from(
    { length: HUE_INDEX_STEPS + 1 },
    (_, i) => Math.floor((hueOfIndex(i % HUE_INDEX_STEPS) / 360) * CENSUS_BINS) % CENSUS_BINS,
  );
  const lab = new Float64Array(3);
  let total = 0;
  for (let i = 0; i < picture.r.length; i++) {
    srgbToOklab(picture.r[i]! / 65535, picture.g[i]! / 65535, picture.b[i]! / 65535, lab);
    const chroma = Math.sqrt(lab[1]! * lab[1]! + lab[2]! * lab[2]!);
    // Chroma this small is rounding, not colour.
    if (chroma < 0.004) continue;
    bins[binOf[hueIndex(lab[1]!, lab[2]!) | 0]!]! += chroma;
    total += chroma;
  }
  return Float32Array.from(bins, (amount) => (total > 0 ? amount / total : 0));
}
