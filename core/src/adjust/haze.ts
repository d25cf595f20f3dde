import { Type, type Static } from '@sinclair/typebox';
import { colourSchema, type Colour } from '../colour/colour.ts';
import { minimumFilter } from '../filter/minimum.ts';
import { guidedPlanes, guidedReach } from '../filter/guidedPlanes.ts';
import type { Raster } from '../base/planes.ts';
import type { Adjustment } from './adjustment.ts';
import { ofLongSide, windowRadius } from './extent.ts';
import { hold16, luminosityPlane } from './luminosityPlane.ts';
import { signedPercent, strict } from './range.ts';

const schema = Type.Object(
  {
    /** Above 0 haze is taken away, below 0 added. */
    amount: signedPercent,
    /** The haze's own colour. */
    light: colourSchema,
  },
  strict,
);
export type HazeSettings = Static<typeof schema>;

/** Half a side of the patches in which something dark is looked for, and of the windows that bring them to the edges; percent of the longer side. */
const PATCH = 0.75;
const WINDOW = 2.5;
const UNEVENNESS = 1e-3;
/** As in the paper: a little haze is kept, and nothing is divided by less than this. */
const OMEGA = 0.95;
const LEAST = 0.1;

/**
 * The dark channel: the least value of any channel, each as a share of the haze's, in the patch about a pixel. Equation 5 of K. He, J. Sun,
 * X. Tang, "Single Image Haze Removal Using Dark Channel Prior" (IEEE PAMI 33, 2011), with the channels divided as in equation 11.
 * @returns 0..65535 for 0..1
 */
export function darkChannel({ area, r, g, b }: Raster, light: Colour, patch: number): Uint16Array {
  const out = new Uint16Array(r.length);
  const [x, y, z] = light.map((v) => 1 / Math.max(0.02, v)) as Colour;
  for (let i = 0; i < out.length; i++) out[i] = Math.min(65535, r[i]! * x, g[i]! * y, b[i]! * z);
  minimumFilter(out, area.width, area.height, patch);
  return out;
}

/**
 * The haze's colour: of the thousandth of the pixels with the lightest dark channel, the one that is lightest (section 4.3 of the paper,
 * there of its intensity).
 */
export function hazeLight(picture: Raster, patch: number): Colour {
  const dark = darkChannel(picture, [1, 1, 1], patch);
  const counts = new Uint32Array(65536);
  for (const v of dark) counts[v] = counts[v]! + 1;
  let from = 65535;
  for (let seen = counts[from]!; seen < dark.length / 1000 && from > 0; seen += counts[--from]!);
  let best = -1;
  let at = 0;
  for (let i = 0; i < dark.length; i++) {
    if (dark[i]! < from) continue;
    const sum = picture.r[i]! + picture.g[i]! + picture.b[i]!;
    if (sum > best) [best, at] = [sum, i];
  }
  return [picture.r[at]! / 65535, picture.g[at]! / 65535, picture.b[at]! / 65535];
}

export const hazePatch = (scale: Parameters<typeof ofLongSide>[1]): number => windowRadius(ofLongSide(PATCH, scale));
const hazeWindow = (scale: Parameters<typeof ofLongSide>[1]): number => windowRadius(ofLongSide(WINDOW, scale));

/**
 * Haze by the dark channel (the paper's equations 12 and 22); its transmission is brought to the picture's edges by a guided filter, as the
 * authors do in "Guided Image Filtering" (2013). Added haze lies where there is some already.
 */
export const haze: Adjustment<'haze', HazeSettings> = {
  kind: 'haze',
  name: 'Haze',
  explains: 'Takes haze away, or lays it on',
  group: 'Light',
  schema,
  defaults: { amount: 0, light: [0.9, 0.91, 0.93] },
  controls: [
    { key: 'amount', label: 'Haze away', step: 1, signed: true },
    { key: 'light', label: 'Colour of the haze', sampled: true },
  ],
  isNeutral: ({ amount }) => amount === 0,
  takeColour: (settings, colour) => void (settings.light = [...colour]),
  filter: {
    reach: (_settings, scale) => hazePatch(scale) + guidedReach(hazeWindow(scale)),
    apply({ amount, light }, picture, scale) {
      const dark = darkChannel(picture, light, hazePatch(scale));
      const [smooth] = guidedPlanes([dark], luminosityPlane(picture), picture.area, hazeWindow(scale), UNEVENNESS);
      const share = amount / 100;
      const { r, g, b } = picture;
      const [x, y, z] = light.map((v) => v * 65535) as Colour;
      for (let i = 0; i < dark.length; i++) {
        const depth = Math.max(0, Math.min(1, smooth![i]! / 65535));
        if (share > 0) {
          const t = Math.max(LEAST, 1 - OMEGA * share * depth);
          r[i] = hold16((r[i]! - x) / t + x);
          g[i] = hold16((g[i]! - y) / t + y);
          b[i] = hold16((b[i]! - z) / t + z);
        } else {
          const t = 1 + share * (0.25 + 0.6 * depth);
          r[i] = hold16(x + (r[i]! - x) * t);
          g[i] = hold16(y + (g[i]! - y) * t);
          b[i] = hold16(z + (b[i]! - z) * t);
        }
      }
    },
  },
};
