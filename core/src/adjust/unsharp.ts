import { Type, type Static } from '@sinclair/typebox';
import { gaussianBlur, gaussianReach } from '../filter/gaussian.ts';
import { smoothStep } from '../base/number.ts';
import type { Adjustment } from './adjustment.ts';
import { scaled } from './extent.ts';
import { hold16 } from './luminosityPlane.ts';
import { radius, strict } from './range.ts';

const LONGEST = 100;
const schema = Type.Object(
  {
    /** How much of the difference to the blurred picture is added, in percent. */
    amount: Type.Number({ minimum: 0, maximum: 500 }),
    /** Standard deviation of the blur in pixels of the full photograph. */
    radius: radius(LONGEST),
    /** Differences below this many of 255 steps are left alone, up to twice as many sharpened by some of it. */
    threshold: Type.Number({ minimum: 0, maximum: 64 }),
  },
  strict,
);
export type UnsharpSettings = Static<typeof schema>;

/** Unsharp masking: v + amount * (v - blurred v), on the encoded values of each channel. */
export const unsharp: Adjustment<'unsharp', UnsharpSettings> = {
  kind: 'unsharp',
  name: 'Unsharp mask',
  explains: 'Sharper edges',
  group: 'Surface',
  schema,
  defaults: { amount: 80, radius: 1.5, threshold: 2 },
  controls: [
    { key: 'amount', label: 'Amount', step: 1, unit: '%', usual: [0, 300] },
    { key: 'radius', label: 'Radius', step: 0.1, unit: 'px', usual: [0, 20] },
    { key: 'threshold', label: 'Threshold', step: 0.5, usual: [0, 20] },
  ],
  isNeutral: (s) => s.amount === 0 || s.radius === 0,
  filter: {
    reach: (s, scale) => gaussianReach(scaled(s.radius, scale)),
    apply(s, { area: { width, height }, r, g, b }, scale) {
      const amount = s.amount / 100;
      const threshold = s.threshold * 257;
      for (const plane of [r, g, b]) {
        const blurred = plane.slice();
        gaussianBlur(blurred, width, height, scaled(s.radius, scale));
        for (let i = 0; i < plane.length; i++) {
          const d = plane[i]! - blurred[i]!;
          const share = threshold > 0 ? smoothStep((d < 0 ? -d : d) / threshold - 1) : 1;
          plane[i] = hold16(plane[i]! + amount * share * d);
        }
      }
    },
  },
  fit: (settings, fit) => void (settings.radius = Math.min(LONGEST, fit.size(settings.radius))),
};
