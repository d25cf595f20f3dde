import { lumOf } from '../colour/luminosity.ts';
import { Type, type Static } from '@sinclair/typebox';
import { smoothStep } from '../base/number.ts';
import type { Adjustment } from './adjustment.ts';
import { strict } from './range.ts';

const schema = Type.Object(
  {
    /** The luminosity from which a pixel is white, 0..255. */
    level: Type.Number({ minimum: 0, maximum: 255 }),
    /** Over how many of those steps black passes into white. */
    softness: Type.Number({ minimum: 0, maximum: 128 }),
  },
  strict,
);
export type ThresholdSettings = Static<typeof schema>;

/** Black and white by luminosity (Lum of W3C Compositing and Blending Level 1). */
export const threshold: Adjustment<'threshold', ThresholdSettings> = {
  kind: 'threshold',
  name: 'Threshold',
  explains: 'Black and white only, no greys',
  group: 'A look',
  schema,
  defaults: { level: 128, softness: 0 },
  controls: [
    { key: 'level', label: 'Level', step: 1 },
    { key: 'softness', label: 'Softness', step: 1 },
  ],
  isNeutral: () => false,
  apply({ level, softness }, { r, g, b }, n) {
    const width = Math.max(1e-6, softness / 255);
    const begin = level / 255 - width / 2;
    for (let i = 0; i < n; i++) {
      const l = lumOf(r[i]!, g[i]!, b[i]!);
      r[i] = g[i] = b[i] = softness > 0 ? smoothStep((l - begin) / width) : l * 255 >= level - 1e-4 ? 1 : 0;
    }
  },
};
