import { Type, type Static } from '@sinclair/typebox';
import { gaussianBlur as blurPlane, gaussianReach } from '../filter/gaussian.ts';
import type { Adjustment } from './adjustment.ts';
import { scaled } from './extent.ts';
import { radius, strict } from './range.ts';

const LONGEST = 250;
const schema = Type.Object(
  {
    /** Standard deviation in pixels of the full photograph. */
    radius: radius(LONGEST),
  },
  strict,
);
export type GaussianBlurSettings = Static<typeof schema>;

/** A Gaussian blur of the encoded values. */
export const gaussianBlur: Adjustment<'gaussianBlur', GaussianBlurSettings> = {
  kind: 'gaussianBlur',
  name: 'Gaussian blur',
  explains: 'Soft, out of focus',
  group: 'Surface',
  schema,
  defaults: { radius: 0 },
  controls: [{ key: 'radius', label: 'Radius', step: 0.5, unit: 'px', usual: [0, 60] }],
  isNeutral: (s) => s.radius === 0,
  filter: {
    reach: (s, scale) => gaussianReach(scaled(s.radius, scale)),
    apply(s, { area: { width, height }, r, g, b }, scale) {
      for (const plane of [r, g, b]) blurPlane(plane, width, height, scaled(s.radius, scale));
    },
  },
  fit: (settings, fit) => void (settings.radius = Math.min(LONGEST, fit.size(settings.radius))),
};
