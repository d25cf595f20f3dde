/** What a picture asks for: the ends of its tones, what is neutral in it, and how much contrast it bears. */
import type { ColourSpace } from '../base/space.ts';
import type { SettingsOf } from '../adjust/registry.ts';
import { levels, levelOf } from '../adjust/levels.ts';
import type { Colour } from '../colour/colour.ts';
import { rgbToOklab } from '../colour/oklab.ts';
import { spaceOf } from '../colour/spaces.ts';
import { adjustmentLayer } from '../document/defaults.ts';
import { lightOfNeutral, NEUTRAL_KELVIN } from '../colour/whitePoint.ts';
import { smoothStep } from '../base/number.ts';
import type { Raster } from '../base/planes.ts';
import { tonalEnds, type Ends } from './ends.ts';
import { writeContent } from './content.ts';
import type { Measurement } from './measurement.ts';

export interface FirstCorrection {
  readonly levels: SettingsOf<'levels'>;
  readonly whiteBalance: SettingsOf<'whiteBalance'>;
  readonly curves: SettingsOf<'curves'>;
}

/** Share of the pixels that each end may clip, and how far an end may move: what is dark or light on purpose stays so. */
const CLIP = 0.001;
const FARTHEST = 110;
/** OKLCh chroma up to which a pixel may be a grey with a cast, and the lightness between which it tells. */
const NEARLY_GREY = 0.06;
const TELLING = [0.2, 0.95] as const;

/** A cast is taken out by half, on the scale of mired: some of it may be the light's own. */
const halfWay = ({ kelvin, tint }: { kelvin: number; tint: number }): SettingsOf<'whiteBalance'> => ({
  kelvin: Math.round(2e6 / (1e6 / kelvin + 1e6 / NEUTRAL_KELVIN)),
  tint: Math.round(tint * 5) / 10,
});

/**
 * How far a picture lies under a veil of one colour, as a faded print does, 0..1: its colours are then farther from grey all together than
 * from each other. Common practice, no source; the bounds are those between the demo's faded prints (2.3) and its other photographs (at most 1.7).
 */
function veilOf(space: ColourSpace, { r, g, b }: Raster): number {
  const lab = new Float64Array(3);
  let [a, d, squares] = [0, 0, 0];
  for (let i = 0; i < r.length; i++) {
    rgbToOklab(space, r[i]! / 65535, g[i]! / 65535, b[i]! / 65535, lab);
    a += lab[1]!;
    d += lab[2]!;
    squares += lab[1]! * lab[1]! + lab[2]! * lab[2]!;
  }
  const n = r.length;
  const offset = Math.hypot(a / n, d / n);
  const spread = Math.sqrt(Math.max(1e-9, squares / n - offset * offset));
  return smoothStep((offset / spread - 1.3) / 0.8);
}

/**
 * Three gentle corrections of a whole picture: the tones from end to end, channel by channel where there is a veil, what is nearly grey
 * to neutral, and an S-shaped curve as far as the picture is flat. Common practice, no source.
 */
export function correctionOf(space: ColourSpace, picture: Raster): FirstCorrection {
  const ends = tonalEnds(picture, CLIP);
  const veil = veilOf(space, picture);
  const held = (own: Ends): Ends => {
    const end = (key: keyof Ends): number => Math.round(ends.rgb[key] + (own[key] - ends.rgb[key]) * veil);
    return { black: Math.min(FARTHEST, end('black')), white: Math.max(255 - FARTHEST, end('white')) };
  };
  const neutral = levels.defaults.rgb;
  const settings: SettingsOf<'levels'> = {
    rgb: { ...neutral },
    r: { ...neutral, ...held(ends.r) },
    g: { ...neutral, ...held(ends.g) },
    b: { ...neutral, ...held(ends.b) },
  };
  const through = (channel: 'r' | 'g' | 'b'): Float64Array =>
    Float64Array.from({ length: 256 }, (_, i) => levelOf(settings[channel], i / 255));
  const [red, green, blue] = [through('r'), through('g'), through('b')];
  const lab = new Float64Array(3);
  const sum: Colour = [0, 0, 0];
  let count = 0;
  let [tones, squares] = [0, 0];
  const n = picture.r.length;
  for (let i = 0; i < n; i++) {
    const [x, y, z] = [red[picture.r[i]! >> 8]!, green[picture.g[i]! >> 8]!, blue[picture.b[i]! >> 8]!];
    rgbToOklab(space, x, y, z, lab);
    const l = lab[0]!;
    tones += l;
    squares += l * l;
    const w = 1 - Math.hypot(lab[1]!, lab[2]!) / NEARLY_GREY;
    if (!(w > 0) || l < TELLING[0] || l > TELLING[1]) continue;
    sum[0] += x * w;
    sum[1] += y * w;
    sum[2] += z * w;
    count += w;
  }
  // Without enough that is nearly grey nothing is known about the light.
  const light = count > n * 0.01 ? lightOfNeutral(space, sum.map((v) => v / count) as Colour) : null;
  const spread = Math.sqrt(Math.max(0, squares / n - (tones / n) ** 2));
  const s = Math.round(Math.max(0, Math.min(0.035, (0.26 - spread) * 0.25)) * 1000) / 1000;
  const straight = (): [number, number][] => [
    [0, 0],
    [1, 1],
  ];
  return {
    levels: settings,
    whiteBalance: light ? halfWay(light) : { kelvin: NEUTRAL_KELVIN, tint: 0 },
    curves: {
      rgb: s > 0 ? [[0, 0], [0.25, 0.25 - s], [0.75, 0.75 + s], [1, 1]] : straight(), // prettier-ignore
      r: straight(),
      g: straight(),
      b: straight(),
      lightness: straight(),
      chroma: straight(),
    },
  };
}

const STEPS = [
  ['levels', 'Ends of the tones'],
  ['whiteBalance', 'Neutral balance'],
  ['curves', 'Gentle contrast'],
] as const;

export const firstCorrection: Measurement<'firstCorrection', object, FirstCorrection> = {
  kind: 'firstCorrection',
  needs: 'picture',
  measure: (_settings, { picture, scale }) => correctionOf(spaceOf(scale), picture),
  apply: (found, _settings, layer) => {
    for (const [kind] of STEPS) writeContent(layer, kind, (settings) => void Object.assign(settings, found[kind]));
  },
  layers: (found, newId) =>
    STEPS.map(([kind, name]) => {
      const layer = adjustmentLayer(newId(), kind, name);
      Object.assign(layer.what.settings, found[kind]);
      layer.foundBy = { kind: 'measurement', measurement: 'firstCorrection' };
      return layer;
    }),
};
