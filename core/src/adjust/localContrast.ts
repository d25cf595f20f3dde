import { Type, type Static } from '@sinclair/typebox';
import { gaussianBlur, gaussianReach } from '../filter/gaussian.ts';
import type { Adjustment } from './adjustment.ts';
import { ofLongSide } from './extent.ts';
import { hold16, luminosityPlane } from './luminosityPlane.ts';
import { signedPercent, strict } from './range.ts';

const schema = Type.Object(
  {
    /** Contrast of texture, and of larger forms; below 0 they become flatter. */
    fine: signedPercent,
    broad: signedPercent,
  },
  strict,
);
export type LocalContrastSettings = Static<typeof schema>;

/** Standard deviations in percent of the longer side. */
const FINE = 0.35;
const BROAD = 2.5;
/** The change at which it is held back by half, so that hard edges get no halos. */
const HALF = 65535 * 0.15;

/** The luminosity's differences to its own blur, made larger or smaller. */
export const localContrast: Adjustment<'localContrast', LocalContrastSettings> = {
  kind: 'localContrast',
  name: 'Local contrast',
  explains: 'Clearer texture and form, or smoother',
  group: 'Light',
  schema,
  defaults: { fine: 0, broad: 0 },
  controls: [
    { key: 'fine', label: 'Fine', step: 1, signed: true },
    { key: 'broad', label: 'Broad', step: 1, signed: true },
  ],
  isNeutral: (s) => s.fine === 0 && s.broad === 0,
  filter: {
    reach: (s, scale) =>
      Math.max(s.fine !== 0 ? gaussianReach(ofLongSide(FINE, scale)) : 0, s.broad !== 0 ? gaussianReach(ofLongSide(BROAD, scale)) : 0),
    apply(s, picture, scale) {
      const { width, height } = picture.area;
      const light = luminosityPlane(picture);
      const change = new Float32Array(light.length);
      for (const [percent, amount] of [
        [FINE, s.fine / 100],
        [BROAD, s.broad / 100],
      ] as const) {
        if (amount === 0) continue;
        const blurred = light.slice();
        gaussianBlur(blurred, width, height, ofLongSide(percent, scale));
        for (let i = 0; i < change.length; i++) change[i] = change[i]! + amount * (light[i]! - blurred[i]!);
      }
      const { r, g, b } = picture;
      for (let i = 0; i < change.length; i++) {
        const d = change[i]!;
        const held = d / (1 + (d < 0 ? -d : d) / HALF);
        r[i] = hold16(r[i]! + held);
        g[i] = hold16(g[i]! + held);
        b[i] = hold16(b[i]! + held);
      }
    },
  },
};
