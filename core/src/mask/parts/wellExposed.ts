/**
 * Where a layer's own picture is better than the one below it: T. Mertens, J. Kautz, F. Van Reeth, "Exposure Fusion" (Pacific Graphics 2007),
 * section 3.1. Each picture's weight is the product of three measures, each to the power that it counts with; the cover is the layer's share
 * of both weights. What is softened, painted or cut from that is the mask's, so that fusion is nothing but layers with masks.
 */
import { Type, type Static } from '@sinclair/typebox';
import { BACKDROP, OVERVIEW, SOURCE } from '../../base/need.ts';
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
const POWERS = ['contrast', 'saturation', 'exposure'] as const;

type Powers = Pick<WellExposedPart, 'contrast' | 'saturation' | 'exposure'>;

/** The weight of every pixel. Greys are means of the channels, contrast the Laplacian of them; beyond the rim its pixels repeat. */
function weightsOf({ area, r, g, b }: Raster, { contrast, saturation, exposure }: Powers): Float64Array {
  const { width, height } = area;
  const n = width * height;
  const grey = new Float64Array(n);
  for (let i = 0; i < n; i++) grey[i] = (r[i]! + g[i]! + b[i]!) / (3 * 65535);
  const weights = new Float64Array(n);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const mean = grey[i]!;
      const around =
        grey[y > 0 ? i - width : i]! + grey[y < height - 1 ? i + width : i]! + grey[x > 0 ? i - 1 : i]! + grey[x < width - 1 ? i + 1 : i]!;
      const [red, green, blue] = [r[i]! / 65535, g[i]! / 65535, b[i]! / 65535];
      const deviation = Math.sqrt(((red - mean) ** 2 + (green - mean) ** 2 + (blue - mean) ** 2) / 3);
      const fromMiddle = (red - 0.5) ** 2 + (green - 0.5) ** 2 + (blue - 0.5) ** 2;
      weights[i] =
        Math.abs(around - 4 * mean) ** contrast * deviation ** saturation * Math.exp((-exposure * fromMiddle) / (2 * SIGMA * SIGMA)) +
        LEAST;
    }
  return weights;
}

interface Shares extends Powers {
  below: Raster;
  values: Float64Array;
}
const known = new WeakMap<Raster, Shares>();

/** What of both weights is the layer's; made once, however many pieces a picture is rendered in. */
function sharesOf(own: Raster, below: Raster, powers: Powers): Float64Array {
  const kept = known.get(own);
  if (kept?.below === below && POWERS.every((key) => kept[key] === powers[key])) return kept.values;
  const [values, others] = [weightsOf(own, powers), weightsOf(below, powers)];
  for (let i = 0; i < values.length; i++) values[i] = values[i]! / (values[i]! + others[i]!);
  const { contrast, saturation, exposure } = powers;
  known.set(own, { contrast, saturation, exposure, below, values });
  return values;
}

export const wellExposed: MaskPartKind<WellExposedPart> = {
  kind: 'wellExposed',
  travels: 'as it is',
  ofOwn: true,
  name: 'Better exposed than below',
  schema,
  controls: [
    { key: 'exposure', label: 'Exposure', step: 0.1, unit: '' },
    { key: 'contrast', label: 'Contrast', step: 0.1, unit: '' },
    { key: 'saturation', label: 'Saturation', step: 0.1, unit: '' },
  ],
  create: (id, combine) => ({ ...newPart('wellExposed', id, combine), contrast: 1, saturation: 1, exposure: 1 }),
  needs: () => [OVERVIEW, BACKDROP, SOURCE],
  // On the overview, so that the same is found at every scale.
  cover(part, view, out) {
    if (!view.own) return void out.fill(0);
    const own = view.own.overview();
    sampleSmooth(sharesOf(own, view.overview(), part), own.area, view, out);
  },
  changedArea: () => null,
  summary: () => 'Better exposed than below',
};
