import { Type, type Static } from '@sinclair/typebox';
import { stretchOf } from '../../base/stretch.ts';
import type { Adjustment } from '../adjustment.ts';
import { latticeRows } from '../lattice.ts';
import { percent, strict } from '../range.ts';

const schema = Type.Object(
  {
    amount: percent,
    /** Size of the paper's fibres in pixels of the full photograph. */
    size: Type.Number({ minimum: 1, maximum: 60 }),
    /** How uneven the sheet is as a whole. */
    uneven: percent,
  },
  strict,
);
export type PaperTextureSettings = Static<typeof schema>;

/** Fibres, and the sheet that is made of them. */
const SHEET = 9;

/**
 * Soft paper under the picture: noise on a lattice as a relief that light from above on the left falls on. The noise: K. Perlin, "An image
 * synthesizer" (SIGGRAPH 1985), section on noise, in two octaves; the light: the relief's slope towards it.
 */
export const paperTexture: Adjustment<'paperTexture', PaperTextureSettings> = {
  kind: 'paperTexture',
  name: 'Paper',
  explains: 'The texture of paper',
  group: 'A look',
  schema,
  defaults: { amount: 30, size: 4, uneven: 30 },
  controls: [
    { key: 'amount', label: 'Amount', step: 1 },
    { key: 'size', label: 'Fibres', step: 0.5, unit: 'px', usual: [1, 20] },
    { key: 'uneven', label: 'Uneven', step: 1 },
  ],
  isNeutral: ({ amount }) => amount === 0,
  placed: true,
  apply({ amount, size, uneven }, { r, g, b }, _n, { scale, tile }) {
    const perPixel = stretchOf(scale).toPhotograph.x / size;
    const fine = Math.min(1, perPixel);
    // Fibres finer than a pixel are their own mean.
    const strength = (amount / 100) * 0.35 * Math.min(1, 1 / perPixel);
    const rows = (channel: number, step: number, shift: number) => {
      const relief = latticeRows(channel, (tile.x + 0.5) * step + shift, step, tile.width);
      return (row: number): Float32Array => relief((tile.y + row + 0.5) * step + shift).slice();
    };
    const [lit, shaded] = [rows(11, fine, -0.35), rows(11, fine, 0.35)];
    const sheet = rows(12, fine / SHEET, 0);
    const wide = (uneven / 100) * 0.12 * (amount / 100);
    for (let row = 0; row < tile.height; row++) {
      const [near, far, whole] = [lit(row), shaded(row), sheet(row)];
      for (let i = 0, at = row * tile.width; i < tile.width; i++, at++) {
        const light = 1 + strength * (far[i]! - near[i]!) + wide * (whole[i]! - 0.3);
        r[at] = r[at]! * light;
        g[at] = g[at]! * light;
        b[at] = b[at]! * light;
      }
    }
  },
  fit: (settings, fit) => void (settings.size = Math.max(1, Math.min(60, fit.size(settings.size)))),
};
