import type { ColourSpace } from '../base/space.ts';
import { FAMILY_HUES, familySpan, type HueFamily } from '../colour/families.ts';
import { rgbToHsl } from '../colour/hsl.ts';
import { HUE_INDEX_STEPS, hueIndex, hueOfIndex } from '../colour/hueIndex.ts';
import { rgbToOklab } from '../colour/oklab.ts';
import { spaceOf } from '../colour/spaces.ts';
import { hueMembership } from '../colour/hueSpan.ts';
import type { Raster } from '../base/planes.ts';
import type { Measurement } from './measurement.ts';

/** Number of bins round the hue circle, 2 degrees each, the first from 0 degrees. */
export const CENSUS_BINS = 180;

const binOf = new Uint8Array(HUE_INDEX_STEPS + 1).map(
  (_, i) => Math.floor((hueOfIndex(i % HUE_INDEX_STEPS) / 360) * CENSUS_BINS) % CENSUS_BINS,
);

/** The hue's bin and the colourfulness of a colour in a model; no colourfulness where it is rounding rather than colour. */
const MEASURES = {
  oklch(space: ColourSpace, r: number, g: number, b: number, out: Float64Array): void {
    rgbToOklab(space, r, g, b, out);
    const chroma = Math.sqrt(out[1]! * out[1]! + out[2]! * out[2]!);
    out[0] = binOf[hueIndex(out[1]!, out[2]!) | 0]!;
    out[1] = chroma < 0.004 ? 0 : chroma;
  },
  hsl(_space: ColourSpace, r: number, g: number, b: number, out: Float64Array): void {
    const range = Math.max(r, g, b) - Math.min(r, g, b);
    out[0] = Math.floor((rgbToHsl(r, g, b).h / 360) * CENSUS_BINS) % CENSUS_BINS;
    out[1] = range < 0.012 ? 0 : range;
  },
} as const;
export type HueModel = keyof typeof MEASURES;

/** Writes the hue, as a share of the circle (in steps of a bin), and the colourfulness of a colour; none where it is rounding rather than colour. */
export function measureHue(model: HueModel, space: ColourSpace, r: number, g: number, b: number, out: Float64Array): void {
  MEASURES[model](space, r, g, b, out);
  out[0] = (out[0]! + 0.5) / CENSUS_BINS;
}

/**
 * Which hues a picture contains, by amount: the colourfulness of all pixels of a hue (OKLCh chroma, or the range of the channels for HSL),
 * so that greys do not count.
 * @param weight how much each pixel counts, 0..65535, such as the values of a mask; left out: all alike
 * @returns CENSUS_BINS shares that add up to 1, or all 0 for a picture without any colour
 * @example
 * const red = createRaster(wholeOf({ width: 1, height: 1 }));
 * red.r[0] = 65535;
 * hueCensus(srgb, red).findIndex((share) => share > 0) * 2; // → 28
 */
export function hueCensus(space: ColourSpace, picture: Raster, weight?: Uint16Array, model: HueModel = 'oklch'): Float32Array {
  const bins = new Float64Array(CENSUS_BINS);
  const measured = new Float64Array(3);
  let total = 0;
  for (let i = 0; i < picture.r.length; i++) {
    const w = weight ? weight[i]! / 65535 : 1;
    if (w === 0) continue;
    MEASURES[model](space, picture.r[i]! / 65535, picture.g[i]! / 65535, picture.b[i]! / 65535, measured);
    const amount = measured[1]! * w;
    bins[measured[0]!]! += amount;
    total += amount;
  }
  return Float32Array.from(bins, (amount) => (total > 0 ? amount / total : 0));
}

/** How much of a census belongs to each of some families: shares that add up to that of all hues. */
export function familyShares(census: Float32Array, families: readonly HueFamily[], model: HueModel = 'oklch'): number[] {
  return families.map(({ id }) => {
    const span = familySpan(families, FAMILY_HUES[model], id);
    return census.reduce((sum, share, i) => sum + share * hueMembership(span, ((i + 0.5) * 360) / CENSUS_BINS), 0);
  });
}

/** The hues of a region, in both models. */
export const census: Measurement<'census', object, Record<HueModel, Float32Array>> = {
  kind: 'census',
  needs: 'picture',
  measure: (_settings, { picture, weight, scale }) => ({
    oklch: hueCensus(spaceOf(scale), picture, weight ?? undefined),
    hsl: hueCensus(spaceOf(scale), picture, weight ?? undefined, 'hsl'),
  }),
};
