import { lumOf } from '../../colour/luminosity.ts';
import { Type, type Static } from '@sinclair/typebox';
import type { Raster } from '../../base/planes.ts';
import { boxSums } from '../../filter/box.ts';
import { sampleSmooth } from '../overview.ts';
import { OVERVIEW } from '../../base/need.ts';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';
import { smoothStep } from '../../base/number.ts';

const schema = partSchema('texture', {
  catches: Type.Union([Type.Literal('busy'), Type.Literal('smooth')]),
  /** Radius of the surroundings that are looked at, in pixels of the full photograph. */
  radius: Type.Number({ minimum: 1, maximum: 200 }),
  /** Standard deviation of the luminosity, in percent, where half is covered, and how softly it passes over. */
  threshold: Type.Number({ minimum: 0.1, maximum: 30 }),
  soft: Type.Number({ minimum: 1, maximum: 100 }),
});
export type TexturePart = Static<typeof schema>;

const known = new WeakMap<Raster, { radius: number; deviation: Float32Array }>();

/** Standard deviation of the luminosity around every pixel of the overview, in percent. */
function deviations(raster: Raster, radius: number): Float32Array {
  const kept = known.get(raster);
  if (kept?.radius === radius) return kept.deviation;
  const { width, height } = raster.area;
  const n = width * height;
  // Whole numbers: their sums are the same in any order.
  const lum = new Float64Array(n);
  for (let i = 0; i < n; i++) lum[i] = Math.round(lumOf(raster.r[i]!, raster.g[i]!, raster.b[i]!) / 64);
  const squares = lum.map((v) => v * v);
  const counts = new Float64Array(n);
  const sum = boxSums(lum, width, height, radius, counts);
  const sum2 = boxSums(squares, width, height, radius, counts);
  const deviation = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    const mean = sum[i]! / counts[i]!;
    deviation[i] = (Math.sqrt(Math.max(0, sum2[i]! / counts[i]! - mean * mean)) * 100) / 1024;
  }
  known.set(raster, { radius, deviation });
  return deviation;
}

export const texture: MaskPartKind<TexturePart> = {
  kind: 'texture',
  travels: 'as it is',
  name: 'Texture',
  schema,
  controls: [
    {
      key: 'catches',
      label: 'Catches',
      options: [
        ['busy', 'Busy places'],
        ['smooth', 'Smooth'],
      ],
    },
    { key: 'threshold', label: 'Threshold', step: 0.2, unit: '%', usual: [0.1, 15] },
    { key: 'soft', label: 'Softness', step: 1, unit: '%' },
    { key: 'radius', label: 'Radius', step: 1, unit: 'px', usual: [1, 60] },
  ],
  create: (id, combine) => ({ ...newPart('texture', id, combine), catches: 'busy', radius: 12, threshold: 3, soft: 50 }),
  needs: () => [OVERVIEW],
  cover(part, view, out) {
    const raster = view.overview();
    const radius = Math.max(1, Math.round((part.radius * raster.area.width) / view.full.width));
    sampleSmooth(deviations(raster, radius), raster.area, view, out);
    const half = (part.threshold * part.soft) / 100;
    const low = part.threshold - half;
    for (let i = 0; i < out.length; i++) {
      const busy = smoothStep((out[i]! - low) / (2 * half));
      out[i] = part.catches === 'busy' ? busy : 1 - busy;
    }
  },
  changedArea: () => null,
  fit: (part, fit) => void (part.radius = Math.max(1, Math.min(200, fit.size(part.radius)))),
  summary: ({ catches }) => (catches === 'busy' ? 'Busy places' : 'Smooth places'),
};
