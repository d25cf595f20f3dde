import { Type, type Static } from '@sinclair/typebox';
import type { Adjustment } from './adjustment.ts';
import { signedPercent, strict } from './range.ts';

const schema = Type.Object({ brightness: signedPercent, contrast: signedPercent }, strict);
export type BrightnessContrastSettings = Static<typeof schema>;

/** All tones moved by as much, and away from (or towards) middle grey: common practice, no source. */
export const brightnessContrast: Adjustment<'brightnessContrast', BrightnessContrastSettings> = {
  kind: 'brightnessContrast',
  name: 'Brightness & contrast',
  explains: 'Lighter or darker, flatter or stronger',
  group: 'Light',
  schema,
  defaults: { brightness: 0, contrast: 0 },
  controls: [
    { key: 'brightness', label: 'Brightness', step: 1, signed: true },
    { key: 'contrast', label: 'Contrast', step: 1, signed: true },
  ],
  isNeutral: ({ brightness, contrast }) => brightness === 0 && contrast === 0,
  apply({ brightness, contrast }, { r, g, b }, n) {
    // From 0 over 1 to 10 at the ends of the slider.
    const slope = contrast < 0 ? 1 + contrast / 100 : 1 / (1 - contrast * 0.009);
    const offset = 0.5 + brightness / 200 - 0.5 * slope;
    for (const plane of [r, g, b]) for (let i = 0; i < n; i++) plane[i] = plane[i]! * slope + offset;
  },
};
