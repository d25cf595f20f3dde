import { Type, type Static } from '@sinclair/typebox';
import { refineSchema, type RefineKind } from '../refine.ts';

const percent = Type.Number({ minimum: 0, maximum: 100 });
const schema = refineSchema('contrast', {
  /** What becomes nothing, and what becomes full, in percent. */
  black: percent,
  white: percent,
  /** The value in the middle, in percent, that becomes a half. */
  middle: Type.Number({ minimum: 2, maximum: 98 }),
});
export type MaskContrast = Static<typeof schema>;

const tables = new WeakMap<MaskContrast, Uint16Array>();

/** Between black and white point a power that brings `middle` to one half. */
function tableOf({ black, white, middle }: MaskContrast): Uint16Array {
  const power = Math.log(0.5) / Math.log(middle / 100);
  const low = Math.min(black, white);
  const span = Math.max(1e-3, Math.abs(white - black));
  return Uint16Array.from({ length: 65536 }, (_, i) => {
    const t = Math.max(0, Math.min(1, ((i / 65535) * 100 - low) / span));
    return Math.round(65535 * Math.pow(t, power));
  });
}

export const contrast: RefineKind<MaskContrast> = {
  kind: 'contrast',
  name: 'Contrast',
  schema,
  controls: [
    { key: 'black', label: 'Black point', step: 1, unit: '%' },
    { key: 'middle', label: 'Middle', step: 1, unit: '%' },
    { key: 'white', label: 'White point', step: 1, unit: '%' },
  ],
  create: () => ({ kind: 'contrast', black: 10, white: 90, middle: 50 }),
  reach: () => 0,
  apply(step, _scale, plane) {
    let table = tables.get(step);
    if (!table) tables.set(step, (table = tableOf(step)));
    for (let i = 0; i < plane.length; i++) plane[i] = table[plane[i]!]!;
  },
};
