import { Type, type Static } from '@sinclair/typebox';
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
  const square = Uint16Array.from(light, (v) => (v * v) / 65535 + 0.5);
  gaussianBlur(mean, width, height, sigma);
  gaussianBlur(square, width, height, sigma);
  return Float32Array.from(mean, (m, i) => Math.max(0, square[i]! / 65535 - (m / 65535) ** 2));
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
  group: 'Effects',
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
      const variance = varianceOf(luminosityPlane(picture), width, height, sigma);
      // Differences below this are none.
      const least = (0.004 + (soft / 100) * 0.08) ** 2;
      const weights = variance.map((v) => 1 / ((v + least) * (v + least) * (v + least) * (v + least)));
      const planes = [r, g, b].map((plane) => {
        const mean = plane.slice();
        gaussianBlur(mean, width, height, sigma);
        return mean;
      });
      const shifts = AROUND.map(([x, y]) => [Math.round(x * stroke), Math.round(y * stroke)] as const);
      for (let y = 0, i = 0; y < height; y++)
        for (let x = 0; x < width; x++, i++) {
          let [total, red, green, blue] = [0, 0, 0, 0];
          for (const [dx, dy] of shifts) {
            const u = x + dx < 0 ? 0 : x + dx >= width ? width - 1 : x + dx;
            const v = y + dy < 0 ? 0 : y + dy >= height ? height - 1 : y + dy;
            const at = v * width + u;
            const weight = weights[at]!;
            total += weight;
            red += weight * planes[0]![at]!;
            green += weight * planes[1]![at]!;
            blue += weight * planes[2]![at]!;
          }
          r[i] = hold16(red / total);
          g[i] = hold16(green / total);
          b[i] = hold16(blue / total);
        }
    },
  },
  fit: (settings, fit) => void (settings.size = Math.min(LONGEST, fit.size(settings.size))),
};

/** A window is as wide as it lies away. */
const sigmaOf = (stroke: number): number => stroke / 2;
