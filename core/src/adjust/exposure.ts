import { Type, type Static } from '@sinclair/typebox';
import { inLight } from '../colour/inLight.ts';
import type { Adjustment } from './adjustment.ts';
import { dialsOf } from '../base/dial.ts';
import { strict } from './range.ts';

const schema = Type.Object(
  {
    /** Stops: one more is twice the light. */
    stops: Type.Number({ minimum: -8, maximum: 8 }),
    /** Light that is added everywhere (or taken away), in percent of white. */
    offset: Type.Number({ minimum: -20, maximum: 20 }),
  },
  strict,
);
export type ExposureSettings = Static<typeof schema>;

/** Light times 2^stops plus an offset, in linear light. */
export const exposure: Adjustment<'exposure', ExposureSettings> = {
  kind: 'exposure',
  name: 'Exposure',
  explains: 'More or less light, in stops, as the camera would',
  group: 'Light',
  schema,
  defaults: { stops: 0, offset: 0 },
  controls: [
    { key: 'stops', label: 'Exposure', step: 0.05, signed: true, usual: [-4, 4] },
    { key: 'offset', label: 'Offset', step: 0.1, unit: '%', signed: true, usual: [-5, 5] },
  ],
  isNeutral: ({ stops, offset }) => stops === 0 && offset === 0,
  dials: () => dialsOf<ExposureSettings>(['stops'], [-8, 8], 0.25),
  apply({ stops, offset }, pixels, n, { space }) {
    const gain = Math.pow(2, stops);
    const matrix = [[gain, 0, 0], [0, gain, 0], [0, 0, gain]] as const; // prettier-ignore
    inLight(space, pixels, n, matrix, offset / 100);
  },
};
