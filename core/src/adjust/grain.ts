import { Type, type Static } from '@sinclair/typebox';
import type { Adjustment } from './adjustment.ts';
import { percent, strict } from './range.ts';

const schema = Type.Object(
  {
    amount: percent,
    /** Size of a grain in pixels of the full photograph. */
    size: Type.Number({ minimum: 1, maximum: 20 }),
    /** How much the channels differ: 0 is grey grain. */
    colour: percent,
  },
  strict,
);
export type GrainSettings = Static<typeof schema>;

/** A number, -1..1, that looks like chance and is always the same for a place. */
function noise(x: number, y: number, channel: number): number {
  let h = Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1) ^ Math.imul(channel + 1, 0x9e3779b1);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 0x7fffffff - 1;
}

/** Noise on a lattice, smooth between its points. */
function latticeNoise(x: number, y: number, channel: number): number {
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  const fx = x - x0;
  const fy = y - y0;
  const upper = noise(x0, y0, channel) * (1 - fx) + noise(x0 + 1, y0, channel) * fx;
  const lower = noise(x0, y0 + 1, channel) * (1 - fx) + noise(x0 + 1, y0 + 1, channel) * fx;
  return upper * (1 - fy) + lower * fy;
}

/** Noise as film has it: most in the middle tones, none in black and white; the same at every zoom, only finer grains average out. */
export const grain: Adjustment<'grain', GrainSettings> = {
  kind: 'grain',
  name: 'Grain',
  group: 'Detail and light',
  schema,
  defaults: { amount: 20, size: 1.5, colour: 0 },
  controls: [
    { key: 'amount', label: 'Amount', step: 1 },
    { key: 'size', label: 'Size', step: 0.1, unit: 'px', usual: [1, 8] },
    { key: 'colour', label: 'Colour', step: 1 },
  ],
  isNeutral: ({ amount }) => amount === 0,
  placed: true,
  apply({ amount, size, colour }, { r, g, b }, _n, { scale: { picture, full }, tile }) {
    const [perX, perY] = [full.width / picture.width / size, full.height / picture.height / size];
    // Where a pixel holds several grains, their mean is left.
    const strength = (amount / 100) * 0.6 * Math.min(1, 1 / perX);
    const own = colour / 100;
    for (let row = 0, i = 0; row < tile.height; row++)
      for (let column = 0; column < tile.width; column++, i++) {
        const x = (tile.x + column + 0.5) * perX;
        const y = (tile.y + row + 0.5) * perY;
        const l = 0.3 * r[i]! + 0.59 * g[i]! + 0.11 * b[i]!;
        const room = l > 0 && l < 1 ? strength * 2 * l * (1 - l) : 0;
        if (room === 0) continue;
        const shared = latticeNoise(x, y, 0);
        r[i] = r[i]! + room * (own > 0 ? shared + (latticeNoise(x, y, 1) - shared) * own : shared);
        g[i] = g[i]! + room * (own > 0 ? shared + (latticeNoise(x, y, 2) - shared) * own : shared);
        b[i] = b[i]! + room * (own > 0 ? shared + (latticeNoise(x, y, 3) - shared) * own : shared);
      }
  },
  fit: (settings, fit) => void (settings.size = Math.max(1, Math.min(20, fit.size(settings.size)))),
};
