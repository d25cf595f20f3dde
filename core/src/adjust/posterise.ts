import { Type, type Static } from '@sinclair/typebox';
import type { Adjustment } from './adjustment.ts';
import { strict } from './range.ts';

const schema = Type.Object(
  {
    /** How many values each channel keeps. */
    levels: Type.Integer({ minimum: 2, maximum: 256 }),
  },
  strict,
);
export type PosteriseSettings = Static<typeof schema>;

/** Each channel falls into as many equal steps, the first black and the last full. */
export const posterise: Adjustment<'posterise', PosteriseSettings> = {
  kind: 'posterise',
  name: 'Posterise',
  explains: 'Few steps instead of smooth tones',
  group: 'A look',
  schema,
  defaults: { levels: 256 },
  controls: [{ key: 'levels', label: 'Levels', step: 1, usual: [2, 32] }],
  isNeutral: ({ levels }) => levels === 256,
  apply({ levels }, { r, g, b }, n) {
    const last = levels - 1;
    for (const plane of [r, g, b])
      for (let i = 0; i < n; i++) {
        const step = (plane[i]! * levels) | 0;
        plane[i] = (step > 0 ? (step < last ? step : last) : 0) / last;
      }
  },
};
