import { Type, type Static } from '@sinclair/typebox';
import { clamp } from '../../base/number.ts';
import { gaussianBlur, gaussianReach } from '../../filter/gaussian.ts';
import type { Adjustment } from '../adjustment.ts';
import { scaled } from '../extent.ts';
import { hold16, luminosityPlane } from '../luminosityPlane.ts';
import { percent, radius, strict } from '../range.ts';

const LONGEST = 60;
const schema = Type.Object(
  {
    /** How wide strokes are, in pixels of the full photograph. */
    size: radius(LONGEST),
    /** How softly strokes pass into each other. */
    soft: percent,
  },
  strict,
);
export type PaintedSettings = Static<typeof schema>;

/** Where the windows about a pixel lie, in shares of the stroke's width: eight, evenly around it. */
const AROUND = Array.from({ length: 8 }, (_, i) => [Math.cos((i * Math.PI) / 4), Math.sin((i * Math.PI) / 4)] as const);

/** The photograph's lightness and its square, blurred: how much it varies within a window. */
function varianceOf(light: Uint16Array, width: number, height: number, sigma: number): Float32Array {
  const mean = light.slice();
  const square = new Uint16Array(light.length);
  for (let i = 0; i < square.length; i++) square[i] = (light[i]! * light[i]!) / 65535 + 0.5;
  gaussianBlur(mean, width, height, sigma);
  gaussianBlur(square, width, height, sigma);
  const out = new Float32Array(mean.length);
  for (let i = 0; i < out.length; i++) {
    const m = mean[i]! / 65535;
    const v = square[i]! / 65535 - m * m;
    out[i] = v > 0 ? v : 0;
  }
  return out;
}

/**
 * A painted look: every pixel becomes the mean of windows about it, of which those count most in which the picture varies least, so that
 * edges stay while all between them becomes strokes. The criterion of G. Papari, N. Petkov, P. Campisi, "Artistic edge and corner
 * enhancing smoothing" (IEEE Transactions on Image Processing 16, 2007), equation 9: the sum of means by variance^-q over that of the weights, with
 * q = 8 over the deviation; Gaussian windows about eight places stand in for its sectors.
 */
export const painted: Adjustment<'painted', PaintedSettings> = {
  kind: 'painted',
  name: 'Painted',
  explains: 'Strokes as in a painting',
  group: 'A look',
  schema,
  defaults: { size: 10, soft: 20 },
  controls: [
    { key: 'size', label: 'Strokes', step: 0.5, unit: 'px', usual: [0, 30] },
    { key: 'soft', label: 'Soft', step: 1 },
  ],
  isNeutral: ({ size }) => size === 0,
  filter: {
    reach: ({ size }, scale) => gaussianReach(sigmaOf(scaled(size, scale))) + Math.ceil(scaled(size, scale)) + 1,
    apply({ size, soft }, picture, scale) {
      const { area, r, g, b } = picture;
      const { width, height } = area;
      const stroke = scaled(size, scale);
      const sigma = sigmaOf(stroke);
      const weights = varianceOf(luminosityPlane(picture), width, height, sigma);
      // Differences below this are none.
      const least = (0.004 + (soft / 100) * 0.08) ** 2;
      for (let i = 0; i < weights.length; i++) {
        const v = weights[i]! + least;
        weights[i] = 1 / (v * v * (v * v));
      }
      const planes = [r, g, b].map((plane) => {
        const mean = plane.slice();
        gaussianBlur(mean, width, height, sigma);
        return mean;
      });
      const [red, green, blue] = planes as [Uint16Array, Uint16Array, Uint16Array];
      // Where each window's row and column begin, held within the picture.
      const columns = AROUND.map(([dx]) => Int32Array.from({ length: width }, (_, x) => clamp(x + Math.round(dx * stroke), 0, width - 1)));
      const rows = AROUND.map(([, dy]) =>
        Int32Array.from({ length: height }, (_, y) => clamp(y + Math.round(dy * stroke), 0, height - 1) * width),
      );
      const [sums, sumR, sumG, sumB] = [0, 0, 0, 0].map(() => new Float64Array(width)) as [
        Float64Array,
        Float64Array,
        Float64Array,
        Float64Array,
      ];
      for (let y = 0; y < height; y++) {
        for (const row of [sums, sumR, sumG, sumB]) row.fill(0);
        for (let k = 0; k < AROUND.length; k++) {
          const column = columns[k]!;
          const row = rows[k]![y]!;
          for (let x = 0; x < width; x++) {
            const at = row + column[x]!;
            const weight = weights[at]!;
            sums[x]! += weight;
            sumR[x]! += weight * red[at]!;
            sumG[x]! += weight * green[at]!;
            sumB[x]! += weight * blue[at]!;
          }
        }
        for (let x = 0, i = y * width; x < width; x++, i++) {
          r[i] = hold16(sumR[x]! / sums[x]!);
          g[i] = hold16(sumG[x]! / sums[x]!);
          b[i] = hold16(sumB[x]! / sums[x]!);
        }
      }
    },
  },
  fit: (settings, fit) => void (settings.size = Math.min(LONGEST, fit.size(settings.size))),
};

/** A window is as wide as it lies away. */
const sigmaOf = (stroke: number): number => stroke / 2;
