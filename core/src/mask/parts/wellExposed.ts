/**
 * Where a layer's own picture is better than the one below it: T. Mertens, J. Kautz, F. Van Reeth, "Exposure Fusion" (Pacific Graphics 2007),
 * section 3.1. Each picture's weight is the product of three measures, each to the power that it counts with; the cover is the layer's share
 * of both weights. What is softened, painted or cut from that is the mask's, so that fusion is nothing but layers with masks.
 */
import { Type, type Static } from '@sinclair/typebox';
import { BELOW, OVERVIEW, OWN } from '../../base/need.ts';
import type { Raster } from '../../base/planes.ts';
import { sampleSmooth } from '../overview.ts';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';

const power = Type.Number({ minimum: 0, maximum: 2 });
const schema = partSchema('wellExposed', { contrast: power, saturation: power, exposure: power });
export type WellExposedPart = Static<typeof schema>;

/** How far from the middle, of 0..1, a channel still counts as well exposed: the paper's sigma. */
const SIGMA = 0.2;
/** So that nothing is divided by nothing: the paper's own. */
const LEAST = 1e-12;

/** The weight of every pixel. Greys are means of the channels, contrast the Laplacian of them; beyond the rim its pixels repeat. */
function weightsOf({ area, r, g, b }: Raster, { contrast, saturation, exposure }: WellExposedPart): Float64Array {
  const { width, height } = area;
  const n = width * height;
  const grey = Float64Array.from({ length: n }, (_, i) => (r[i]! + g[i]! + b[i]!) / (3 * 65535));
  const weights = new Float64Array(n);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const mean = grey[i]!;
      const [up, down] = [grey[y > 0 ? i - width : i]!, grey[y < height - 1 ? i + width : i]!];
      const [left, right] = [grey[x > 0 ? i - 1 : i]!, grey[x < width - 1 ? i + 1 : i]!];
      const rgb = [r[i]! / 65535, g[i]! / 65535, b[i]! / 65535] as const;
      const deviation = Math.sqrt(rgb.reduce((sum, v) => sum + (v - mean) ** 2, 0) / 3);
      const fromMiddle = rgb.reduce((sum, v) => sum + (v - 0.5) ** 2, 0);
      weights[i] =
        Math.abs(up + down + left + right - 4 * mean) ** contrast *
          deviation ** saturation *
          Math.exp(-fromMiddle / (2 * SIGMA * SIGMA)) ** exposure +
        LEAST;
    }
  return weights;
}

export const wellExposed: MaskPartKind<WellExposedPart> = {
  kind: 'wellExposed',
  travels: 'as it is',
  name: 'Better exposed than below',
  schema,
  controls: [
    { key: 'exposure', label: 'Exposure', step: 0.1, unit: '' },
    { key: 'contrast', label: 'Contrast', step: 0.1, unit: '' },
    { key: 'saturation', label: 'Saturation', step: 0.1, unit: '' },
  ],
  create: (id, combine) => ({ ...newPart('wellExposed', id, combine), contrast: 1, saturation: 1, exposure: 1 }),
  needs: () => [OVERVIEW, BELOW, OWN],
  // On the overview, so that the same is found at every scale.
  cover(part, view, out) {
    if (!view.own) return void out.fill(0);
    const own = view.own.overview();
    const [weights, below] = [weightsOf(own, part), weightsOf(view.overview(), part)];
    for (let i = 0; i < weights.length; i++) weights[i] = weights[i]! / (weights[i]! + below[i]!);
    sampleSmooth(weights, own.area, view, out);
  },
  changedArea: () => null,
  summary: () => 'Better exposed than below',
};
