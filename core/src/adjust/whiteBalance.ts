import { Type, type Static } from '@sinclair/typebox';
import { decodeSrgb, encodeSrgb } from '../colour/transfer.ts';
import { balanceMatrix, KELVIN_BOUNDS, lightOfNeutral, NEUTRAL_KELVIN } from '../colour/whitePoint.ts';
import type { Adjustment } from './adjustment.ts';
import { strict } from './range.ts';
import { madeOnce } from './table.ts';

const schema = Type.Object(
  {
    /** The light in which the photograph was taken, in kelvin: a higher one makes the picture warmer. */
    kelvin: Type.Number({ minimum: KELVIN_BOUNDS[0], maximum: KELVIN_BOUNDS[1] }),
    /** How green (above 0) or magenta (below 0) that light was: a higher one makes the picture more magenta. */
    tint: Type.Number({ minimum: -150, maximum: 150 }),
  },
  strict,
);
export type WhiteBalanceSettings = Static<typeof schema>;

const matrixOf = madeOnce(({ kelvin, tint }: WhiteBalanceSettings) => balanceMatrix(kelvin, tint));

/** What was taken in one light as it would be in daylight (D65): Bradford adaptation in linear light. */
export const whiteBalance: Adjustment<'whiteBalance', WhiteBalanceSettings> = {
  kind: 'whiteBalance',
  name: 'White balance',
  group: 'Colour',
  schema,
  defaults: { kelvin: NEUTRAL_KELVIN, tint: 0 },
  controls: [],
  isNeutral: ({ kelvin, tint }) => kelvin === NEUTRAL_KELVIN && tint === 0,
  apply(settings, { r, g, b }, n) {
    const [[m00, m01, m02], [m10, m11, m12], [m20, m21, m22]] = matrixOf(settings);
    for (let i = 0; i < n; i++) {
      const [x, y, z] = [decodeSrgb(r[i]!), decodeSrgb(g[i]!), decodeSrgb(b[i]!)];
      r[i] = encodeSrgb(m00 * x + m01 * y + m02 * z);
      g[i] = encodeSrgb(m10 * x + m11 * y + m12 * z);
      b[i] = encodeSrgb(m20 * x + m21 * y + m22 * z);
    }
  },
  takeColour(settings, colour) {
    const light = lightOfNeutral(colour);
    if (light) Object.assign(settings, light);
  },
};
