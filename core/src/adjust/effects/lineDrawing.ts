import { Type, type Static } from '@sinclair/typebox';
import { gaussianBlur, gaussianReach } from '../../filter/gaussian.ts';
import type { Adjustment } from '../adjustment.ts';
import { scaled } from '../extent.ts';
import { luminosityPlane } from '../luminosityPlane.ts';
import { percent, radius, strict } from '../range.ts';

const LONGEST = 30;
const schema = Type.Object(
  {
    /** How wide lines are, in pixels of the full photograph. */
    width: radius(LONGEST),
    /** How much edges count against tones. */
    edges: percent,
    /** The tone from which on there is paper. */
    paper: percent,
    /** How softly ink passes into paper. */
    soft: percent,
  },
  strict,
);
export type LineDrawingSettings = Static<typeof schema>;

/** How much wider the second Gaussian is: the paper's value, after D. Marr and E. Hildreth (1980). */
const WIDER = 1.6;
const STEPS = 2048;

/**
 * A line drawing: extended differences of Gaussians, H. Winnemöller, J. E. Kyprianidis, S. C. Olsen, "XDoG: an eXtended
 * difference-of-Gaussians compendium" (Computers & Graphics 36, 2012), equations 5 and 7. It lies over the picture by multiplying.
 */
export const lineDrawing: Adjustment<'lineDrawing', LineDrawingSettings> = {
  kind: 'lineDrawing',
  name: 'Line drawing',
  explains: 'Lines as in a drawing',
  group: 'A look',
  schema,
  mode: 'multiply',
  defaults: { width: 3, edges: 60, paper: 55, soft: 30 },
  controls: [
    { key: 'width', label: 'Line', step: 0.1, unit: 'px', usual: [0, 12] },
    { key: 'edges', label: 'Edges', step: 1 },
    { key: 'paper', label: 'Paper from', step: 1, unit: '%' },
    { key: 'soft', label: 'Soft', step: 1 },
  ],
  isNeutral: ({ width }) => width === 0,
  filter: {
    reach: ({ width }, scale) => gaussianReach(scaled(width, scale) * WIDER),
    apply({ width: line, edges, paper, soft }, picture, scale) {
      const { area, r, g, b } = picture;
      const sigma = scaled(line, scale);
      const narrow = luminosityPlane(picture);
      const wide = narrow.slice();
      gaussianBlur(narrow, area.width, area.height, sigma);
      gaussianBlur(wide, area.width, area.height, sigma * WIDER);
      const p = (edges / 100) * 40;
      const table = inkTable(paper / 100, 2 + (1 - soft / 100) * 30);
      for (let i = 0; i < narrow.length; i++) {
        // Equation 7: the picture sharpened by p.
        const sharp = ((1 + p) * narrow[i]! - p * wide[i]!) / 65535;
        const at = sharp < 0 ? 0 : sharp > 1 ? STEPS : (sharp * STEPS + 0.5) | 0;
        r[i] = g[i] = b[i] = table[at]!;
      }
    },
  },
  fit: (settings, fit) => void (settings.width = Math.min(LONGEST, fit.size(settings.width))),
};

/** Equation 5: paper from a tone on, below it ink that passes into it by a hyperbolic tangent. */
const inkTable = (from: number, slope: number): Uint16Array =>
  Uint16Array.from({ length: STEPS + 1 }, (_, i) => {
    const tone = i / STEPS;
    return tone >= from ? 65535 : Math.max(0, 1 + Math.tanh(slope * (tone - from))) * 65535 + 0.5;
  });
