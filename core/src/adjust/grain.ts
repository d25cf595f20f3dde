import { mappingOf } from '../base/mapping.ts';
import { lumOf } from '../colour/luminosity.ts';
import { Type, type Static } from '@sinclair/typebox';
import type { Planes } from '../base/planes.ts';
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

/** Noise on a lattice, smooth between its points, along one row of pixels after the other. */
function latticeRows(channel: number, first: number, step: number, n: number): (y: number) => Float32Array {
  const x0 = Math.floor(first);
  const points = Math.floor(first + (n - 1) * step) - x0 + 2;
  const fill = (line: Float32Array, y: number): void => {
    for (let i = 0; i < points; i++) line[i] = noise(x0 + i, y, channel);
  };
  let at = Number.NaN;
  let [upper, lower] = [new Float32Array(points), new Float32Array(points)];
  const row = new Float32Array(n);
  return (y) => {
    const y0 = Math.floor(y);
    if (y0 !== at) {
      [upper, lower] = [lower, upper];
      if (y0 !== at + 1) fill(upper, y0);
      fill(lower, y0 + 1);
      at = y0;
    }
    const down = y - y0;
    for (let i = 0; i < n; i++) {
      const x = first + i * step - x0;
      const k = x | 0;
      const across = x - k;
      const left = upper[k]! + (lower[k]! - upper[k]!) * down;
      row[i] = left + (upper[k + 1]! + (lower[k + 1]! - upper[k + 1]!) * down - left) * across;
    }
    return row;
  };
}

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
  apply({ amount, size, colour }, pixels, _n, { scale, tile }) {
    // Where a pixel holds several grains, it has one of its own, as strong as their mean.
    const perPixel = mappingOf(scale).toPhotograph.xx / size;
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
