import { Type, type Static } from '@sinclair/typebox';
import { inLight } from '../colour/inLight.ts';
import { balanceMatrix, KELVIN_BOUNDS, lightOfNeutral, NEUTRAL_KELVIN } from '../colour/whitePoint.ts';
import type { Adjustment } from './adjustment.ts';
import { dialsOf } from '../base/dial.ts';
import { clamp } from '../base/number.ts';
import { strict } from './range.ts';
import { madeOnceIn } from '../base/madeOnce.ts';

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

const matrixOf = madeOnceIn((space, { kelvin, tint }: WhiteBalanceSettings) => balanceMatrix(space, kelvin, tint));

/** What was taken in one light as it would be in daylight (D65): Bradford adaptation in linear light. */
export const whiteBalance: Adjustment<'whiteBalance', WhiteBalanceSettings> = {
  kind: 'whiteBalance',
  name: 'White balance',
  explains: 'Warmer or cooler, greener or pinker light',
  group: 'A cast',
  schema,
  defaults: { kelvin: NEUTRAL_KELVIN, tint: 0 },
  controls: [],
  isNeutral: ({ kelvin, tint }) => kelvin === NEUTRAL_KELVIN && tint === 0,
  dials: () => [
    {
      // Even steps of light are even on the scale of mired.
      read: ({ kelvin }) => 1e6 / kelvin,
      write: (settings, mired) => void (settings.kelvin = Math.round(clamp(1e6 / mired, ...KELVIN_BOUNDS))),
      bounds: [1e6 / KELVIN_BOUNDS[1], 1e6 / KELVIN_BOUNDS[0]],
      step: 15,
    },
    ...dialsOf<WhiteBalanceSettings>(['tint'], [-150, 150], 10),
  ],
  apply: (settings, pixels, n, { space }) => inLight(space, pixels, n, matrixOf(space, settings), 0),
  takeColour(settings, colour, _chosen, space) {
    const light = lightOfNeutral(space, colour);
    if (light) Object.assign(settings, light);
  },
};
