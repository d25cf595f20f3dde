import { stretchOf } from '../base/stretch.ts';
import { lumOf } from '../colour/luminosity.ts';
import { Type, type Static } from '@sinclair/typebox';
import type { Planes } from '../base/planes.ts';
import type { Adjustment } from './adjustment.ts';
import { latticeRows } from './lattice.ts';
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

/** How much noise each pixel of a row takes: most in the middle tones. */
function writeRoom({ r, g, b }: Planes, from: number, strength: number, room: Float32Array): void {
  for (let i = 0; i < room.length; i++) {
    const l = lumOf(r[from + i]!, g[from + i]!, b[from + i]!);
    room[i] = l > 0 && l < 1 ? strength * 2 * l * (1 - l) : 0;
  }
}

function addNoise(plane: Float32Array, from: number, room: Float32Array, grains: Float32Array): void {
  for (let i = 0; i < room.length; i++) plane[from + i] = plane[from + i]! + room[i]! * grains[i]!;
}

/** Noise as film has it: most in the middle tones, none in black and white; the same at every zoom, only finer grains average out. */
export const grain: Adjustment<'grain', GrainSettings> = {
  kind: 'grain',
  name: 'Grain',
  explains: 'Film grain',
  group: 'A look',
  schema,
  defaults: { amount: 20, size: 1.5, colour: 0 },
  controls: [
    { key: 'amount', label: 'Amount', step: 1 },
    { key: 'size', label: 'Size', step: 0.1, unit: 'px', usual: [1, 8] },
    { key: 'colour', label: 'Colour', step: 1 },
  ],
  isNeutral: ({ amount }) => amount === 0,
  placed: true,
  apply({ amount, size, colour }, pixels, _n, { scale, tile }) {
    // Where a pixel holds several grains, it has one of its own, as strong as their mean.
    const perPixel = stretchOf(scale).toPhotograph.x / size;
    const step = Math.min(1, perPixel);
    const strength = (amount / 100) * 0.6 * Math.min(1, 1 / perPixel);
    const own = colour / 100;
    const [left, top] = [(tile.x + 0.5) * step, (tile.y + 0.5) * step];
    const shared = latticeRows(0, left, step, tile.width);
    const channels = own > 0 ? [1, 2, 3].map((channel) => latticeRows(channel, left, step, tile.width)) : [];
    const room = new Float32Array(tile.width);
    for (let row = 0; row < tile.height; row++) {
      const from = row * tile.width;
      const y = top + row * step;
      writeRoom(pixels, from, strength, room);
      const grey = shared(y);
      for (const [c, plane] of [pixels.r, pixels.g, pixels.b].entries()) {
        const apart = channels[c]?.(y);
        if (apart) for (let i = 0; i < tile.width; i++) apart[i] = grey[i]! + (apart[i]! - grey[i]!) * own;
        addNoise(plane, from, room, apart ?? grey);
      }
    }
  },
  fit: (settings, fit) => void (settings.size = Math.max(1, Math.min(20, fit.size(settings.size)))),
};
