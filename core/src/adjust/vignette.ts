import { Type, type Static } from '@sinclair/typebox';
import { smoothStep } from '../filter/smoothStep.ts';
import type { Adjustment } from './adjustment.ts';
import { percent, signedPercent, strict } from './range.ts';

const schema = Type.Object(
  {
    /** Below 0 the corners become darker, above 0 lighter. */
    amount: signedPercent,
    /** How far from the centre it begins, in percent of the way to the corners. */
    size: percent,
    /** Over how much of the rest it grows. */
    softness: percent,
    /** From the frame's own shape (0) to a circle (100). */
    shape: percent,
    /** How far the shadows are left as they are. */
    spareShadows: percent,
    /** The centre, in percent of width and height. */
    x: percent,
    y: percent,
  },
  strict,
);
export type VignetteSettings = Static<typeof schema>;

/** Corners darker or lighter. */
export const vignette: Adjustment<'vignette', VignetteSettings> = {
  kind: 'vignette',
  name: 'Vignette',
  group: 'Detail and light',
  schema,
  defaults: { amount: -30, size: 45, softness: 80, shape: 0, spareShadows: 0, x: 50, y: 50 },
  controls: [
    { key: 'amount', label: 'Amount', step: 1, signed: true },
    { key: 'size', label: 'Size', step: 1, unit: '%' },
    { key: 'softness', label: 'Softness', step: 1, unit: '%' },
    { key: 'shape', label: 'Roundness', step: 1, unit: '%' },
    { key: 'spareShadows', label: 'Spare darks', step: 1, unit: '%' },
    { key: 'x', label: 'Across', step: 1, unit: '%' },
    { key: 'y', label: 'Down', step: 1, unit: '%' },
  ],
  isNeutral: ({ amount }) => amount === 0,
  placed: true,
  apply({ amount, size, softness, shape, spareShadows, x, y }, { r, g, b }, _n, { scale: { picture }, tile }) {
    const [cx, cy] = [(x / 100) * picture.width, (y / 100) * picture.height];
    const [halfX, halfY] = [picture.width / 2, picture.height / 2];
    const round = shape / 100;
    const long = Math.max(halfX, halfY);
    const [perX, perY] = [halfX + (long - halfX) * round, halfY + (long - halfY) * round].map((v) => 1 / (v * Math.SQRT2)) as [
      number,
      number,
    ];
    const begin = size / 100;
    const width = Math.max(0.01, (softness / 100) * (1.05 - begin));
    const strength = amount / 100;
    const spare = spareShadows / 100;
    for (let row = 0, i = 0; row < tile.height; row++) {
      const dy = (tile.y + row + 0.5 - cy) * perY;
      for (let column = 0; column < tile.width; column++, i++) {
        const dx = (tile.x + column + 0.5 - cx) * perX;
        let share = strength * smoothStep((Math.sqrt(dx * dx + dy * dy) - begin) / width);
        if (share === 0) continue;
        if (spare > 0) {
          const l = 0.3 * r[i]! + 0.59 * g[i]! + 0.11 * b[i]!;
          share *= 1 - spare * smoothStep(1 - l * 2);
        }
        if (share < 0) {
          r[i] = r[i]! * (1 + share);
          g[i] = g[i]! * (1 + share);
          b[i] = b[i]! * (1 + share);
        } else {
          r[i] = r[i]! + (1 - r[i]!) * share;
          g[i] = g[i]! + (1 - g[i]!) * share;
          b[i] = b[i]! + (1 - b[i]!) * share;
        }
      }
    }
  },
};
