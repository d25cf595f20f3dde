import { LUM } from '../colour/luminosity.ts';
import { Type, type Static } from '@sinclair/typebox';
import { guidedPlanes, guidedReach } from '../filter/guidedPlanes.ts';
import type { Adjustment } from './adjustment.ts';
import { scaled, windowRadius } from './extent.ts';
import { hold16, luminosityPlane } from './luminosityPlane.ts';
import { percent, strict } from './range.ts';

const schema = Type.Object(
  {
    /** How much unevenness of the luminosity is taken for noise, and how much of the colours. */
    lightness: percent,
    colour: percent,
    /** How large the noise's grains are, in pixels of the full photograph. */
    size: Type.Number({ minimum: 1, maximum: 10 }),
  },
  strict,
);
export type NoiseReductionSettings = Static<typeof schema>;

/** The variance that counts as noise at full strength. */
const LIGHT_NOISE = 0.01;
const COLOUR_NOISE = 0.04;

const lightRadius = (s: NoiseReductionSettings, factor: number): number => windowRadius(s.size * factor);
const colourRadius = (s: NoiseReductionSettings, factor: number): number => windowRadius(3 * s.size * factor);

/** Noise smoothed away from the luminosity and, over wider windows, from the colours; edges of the luminosity stay: guided filters. */
export const noiseReduction: Adjustment<'noiseReduction', NoiseReductionSettings> = {
  kind: 'noiseReduction',
  name: 'Noise reduction',
  explains: 'Less noise and colour specks',
  group: 'Surface',
  schema,
  defaults: { lightness: 25, colour: 50, size: 2 },
  controls: [
    { key: 'lightness', label: 'Lightness', step: 1 },
    { key: 'colour', label: 'Colour', step: 1 },
    { key: 'size', label: 'Grain size', step: 0.5, unit: 'px' },
  ],
  isNeutral: (s) => s.lightness === 0 && s.colour === 0,
  filter: {
    reach(s, scale) {
      const factor = scaled(1, scale);
      return Math.max(s.lightness > 0 ? guidedReach(lightRadius(s, factor)) : 0, s.colour > 0 ? guidedReach(colourRadius(s, factor)) : 0);
    },
    apply(s, picture, scale) {
      const factor = scaled(1, scale);
      const light = luminosityPlane(picture);
      const n = light.length;
      const { r, g, b } = picture;
      let smooth: ArrayLike<number> = light;
      if (s.lightness > 0)
        [smooth = light] = guidedPlanes([light], light, picture.area, lightRadius(s, factor), LIGHT_NOISE * (s.lightness / 100) ** 2);
      // Differences to the luminosity, halved and about the middle; green's follows from the others'.
      let differences: ArrayLike<number>[] = [r, b].map((plane) => {
        const own = new Uint16Array(n);
        for (let i = 0; i < n; i++) own[i] = (plane[i]! - light[i]!) / 2 + 32768;
        return own;
      });
      if (s.colour > 0)
        differences = guidedPlanes(
          differences as Uint16Array[],
          light,
          picture.area,
          colourRadius(s, factor),
          COLOUR_NOISE * (s.colour / 100) ** 2,
        );
      const [red, blue] = differences as [ArrayLike<number>, ArrayLike<number>];
      for (let i = 0; i < n; i++) {
        const l = smooth[i]!;
        const [x, z] = [l + (red[i]! - 32768) * 2, l + (blue[i]! - 32768) * 2];
        r[i] = hold16(x);
        b[i] = hold16(z);
        g[i] = hold16((l - LUM.r * x - LUM.b * z) / LUM.g);
      }
    },
  },
  fit: (settings, fit) => void (settings.size = Math.max(1, Math.min(10, fit.size(settings.size)))),
};
