import { Type, type Static } from '@sinclair/typebox';
import { gaussianBlur, gaussianReach } from '../filter/gaussian.ts';
import type { Adjustment } from './adjustment.ts';
import { scaled } from './extent.ts';
import { hold16, luminosityPlane } from './luminosityPlane.ts';
import { radius, strict } from './range.ts';

const LONGEST = 100;
const schema = Type.Object(
  {
    /** Standard deviation in pixels of the full photograph of the blur that is taken away. */
    radius: radius(LONGEST),
    /** How strong the detail that is left is, in percent. */
    amount: Type.Number({ minimum: 0, maximum: 400 }),
    /** Whether detail is that of the luminosity alone. */
    grey: Type.Boolean(),
  },
  strict,
);
export type HighPassSettings = Static<typeof schema>;

/** What is finer than a radius, about middle grey: sharpens in a mode that raises contrast, such as the Overlay it begins with. */
export const highPass: Adjustment<'highPass', HighPassSettings> = {
  kind: 'highPass',
  name: 'High-pass sharpening',
  explains: 'Sharpening that spares smooth areas',
  group: 'Surface',
  schema,
  mode: 'overlay',
  defaults: { radius: 3, amount: 100, grey: true },
  controls: [
    { key: 'radius', label: 'Radius', step: 0.1, unit: 'px', usual: [0, 20] },
    { key: 'amount', label: 'Amount', step: 1, unit: '%' },
    { key: 'grey', label: 'Without colour' },
  ],
  isNeutral: () => false,
  apply(_settings, { r, g, b }, n) {
    // Without a radius there is nothing finer.
    for (const plane of [r, g, b]) plane.fill(0.5, 0, n);
  },
  filter: {
    reach: (s, scale) => gaussianReach(scaled(s.radius, scale)),
    apply(s, picture, scale) {
      const { width, height } = picture.area;
      const amount = s.amount / 100;
      const detail = (plane: Uint16Array, out: Uint16Array): void => {
        const blurred = plane.slice();
        gaussianBlur(blurred, width, height, scaled(s.radius, scale));
        for (let i = 0; i < plane.length; i++) out[i] = hold16(32767.5 + amount * (plane[i]! - blurred[i]!));
      };
      if (!s.grey) {
        for (const plane of [picture.r, picture.g, picture.b]) detail(plane, plane);
        return;
      }
      detail(luminosityPlane(picture), picture.r);
      picture.g.set(picture.r);
      picture.b.set(picture.r);
    },
  },
  fit: (settings, fit) => void (settings.radius = Math.min(LONGEST, fit.size(settings.radius))),
};
