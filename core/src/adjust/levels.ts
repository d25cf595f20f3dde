import { Type, type Static } from '@sinclair/typebox';
import type { Adjustment } from './adjustment.ts';
import { rounded } from '../base/dial.ts';
import { madeOnce } from '../base/madeOnce.ts';
import { channelTable, throughTable } from './table.ts';

const level = Type.Number({ minimum: 0, maximum: 255 });
const channel = Type.Object(
  {
    /** What becomes black and what becomes white, 0..255. */
    black: level,
    white: level,
    /** Exponent's inverse: above 1 lightens the middle, below 1 darkens it. */
    middle: Type.Number({ minimum: 0.1, maximum: 10 }),
    /** What black and white become, 0..255. */
    low: level,
    high: level,
  },
  { additionalProperties: false },
);
const schema = Type.Object({ rgb: channel, r: channel, g: channel, b: channel }, { additionalProperties: false });
export type LevelsSettings = Static<typeof schema>;
export type LevelsChannel = LevelsSettings['rgb'];

const neutral = (): LevelsChannel => ({ black: 0, white: 255, middle: 1, low: 0, high: 255 });
const isNeutralChannel = (c: LevelsChannel): boolean => c.black === 0 && c.white === 255 && c.middle === 1 && c.low === 0 && c.high === 255;

/**
 * One value through one channel's levels; common practice, no source: `low + (high - low) * ((v - black) / (white - black))^(1 / middle)`.
 * A white below the black turns the tones round.
 */
export function levelOf({ black, white, middle, low, high }: LevelsChannel, v: number): number {
  const span = white === black ? 1e-6 : (white - black) / 255;
  const t = Math.max(0, Math.min(1, (v - black / 255) / span));
  return (low + (high - low) * Math.pow(t, 1 / middle)) / 255;
}

const tablesOf = madeOnce((settings: LevelsSettings) =>
  (['r', 'g', 'b'] as const).map((own) => channelTable((v) => levelOf(settings.rgb, levelOf(settings[own], v)))),
);

export const levels: Adjustment<'levels', LevelsSettings> = {
  kind: 'levels',
  name: 'Levels',
  explains: 'Black point, white point and the middle',
  group: 'Light',
  schema,
  defaults: { rgb: neutral(), r: neutral(), g: neutral(), b: neutral() },
  controls: [],
  isNeutral: ({ rgb, r, g, b }) => [rgb, r, g, b].every(isNeutralChannel),
  dials: () =>
    (['r', 'g', 'b'] as const).map((own) => ({
      // Even steps of the middle are even on a logarithmic scale.
      read: (settings) => Math.log2(settings[own].middle),
      write: (settings, value) => void (settings[own].middle = rounded(2 ** value, 0.001)),
      bounds: [-3, 3],
      step: 0.1,
    })),
  apply(settings, pixels, n) {
    const [r, g, b] = tablesOf(settings);
    throughTable(pixels.r, n, r!);
    throughTable(pixels.g, n, g!);
    throughTable(pixels.b, n, b!);
  },
};
