import { Type, type Static } from '@sinclair/typebox';
import type { Adjustment } from './adjustment.ts';

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

/** The square root of the value indexes the table: fine steps where a middle above 1 is steep. */
const STEPS = 2048;
type Tables = readonly [Float32Array, Float32Array, Float32Array];
const made = new WeakMap<LevelsSettings, Tables>();

function tablesOf(settings: LevelsSettings): Tables {
  let tables = made.get(settings);
  if (!tables) {
    const one = (own: LevelsChannel): Float32Array =>
      Float32Array.from({ length: STEPS + 2 }, (_, i) => levelOf(settings.rgb, levelOf(own, Math.min(1, (i / STEPS) ** 2))));
    made.set(settings, (tables = [one(settings.r), one(settings.g), one(settings.b)]));
  }
  return tables;
}

/** Values outside 0..1 are held at the ends. */
function throughTable(plane: Float32Array, n: number, table: Float32Array): void {
  for (let i = 0; i < n; i++) {
    const v = plane[i]!;
    const x = v > 0 ? (v < 1 ? Math.sqrt(v) * STEPS : STEPS) : 0;
    const k = x | 0;
    plane[i] = table[k]! + (table[k + 1]! - table[k]!) * (x - k);
  }
}

export const levels: Adjustment<'levels', LevelsSettings> = {
  kind: 'levels',
  name: 'Levels',
  schema,
  defaults: { rgb: neutral(), r: neutral(), g: neutral(), b: neutral() },
  controls: [],
  isNeutral: ({ rgb, r, g, b }) => [rgb, r, g, b].every(isNeutralChannel),
  apply(settings, pixels, n) {
    const [r, g, b] = tablesOf(settings);
    throughTable(pixels.r, n, r);
    throughTable(pixels.g, n, g);
    throughTable(pixels.b, n, b);
  },
};
