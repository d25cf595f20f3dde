import { Type, type Static } from '@sinclair/typebox';
import { hslChannel } from '../colour/hsl.ts';
import { oklabToSrgb, srgbToOklab } from '../colour/oklab.ts';
import type { Planes } from '../render/planes.ts';
import type { Adjustment } from './adjustment.ts';

const schema = Type.Object(
  {
    model: Type.Union([Type.Literal('oklch'), Type.Literal('hsl')]),
    /** Turn of the hue in degrees. */
    hue: Type.Number({ minimum: -180, maximum: 180 }),
    /** Percent: -100 takes all chroma away, +100 doubles it. */
    saturation: Type.Number({ minimum: -100, maximum: 100 }),
    /** Percent of the way to black (below 0) or white (above 0). */
    lightness: Type.Number({ minimum: -100, maximum: 100 }),
    /** Gives every pixel one hue instead of turning its own. */
    colourise: Type.Boolean(),
    /** The hue that colourising gives, in degrees of the model. */
    colouriseHue: Type.Number({ minimum: 0, maximum: 360 }),
    /** Its saturation, percent. */
    colouriseSaturation: Type.Number({ minimum: 0, maximum: 100 }),
  },
  { additionalProperties: false },
);
export type HueSaturationSettings = Static<typeof schema>;

const RADIANS = Math.PI / 180;

/**
 * OKLCh: the hue is a rotation of (a, b), saturation a factor on them, lightness a mix with white or black in OKLab.
 * Colourised chroma is largest at middle lightness and vanishes at black and white: 0.32 * s * 4 L (1 - L).
 */
function applyOklch(s: HueSaturationSettings, { r, g, b }: Planes, n: number): void {
  const cos = Math.cos(s.hue * RADIANS);
  const sin = Math.sin(s.hue * RADIANS);
  const gain = 1 + s.saturation / 100;
  const keep = 1 - Math.abs(s.lightness) / 100;
  const lift = s.lightness > 0 ? s.lightness / 100 : 0;
  const tintA = Math.cos(s.colouriseHue * RADIANS) * 0.32 * (s.colouriseSaturation / 100);
  const tintB = Math.sin(s.colouriseHue * RADIANS) * 0.32 * (s.colouriseSaturation / 100);
  const px = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    srgbToOklab(r[i]!, g[i]!, b[i]!, px);
    const l = px[0]!;
    let a2: number;
    let b2: number;
    if (s.colourise) {
      const amount = l > 0 && l < 1 ? 4 * l * (1 - l) : 0;
      a2 = tintA * amount;
      b2 = tintB * amount;
    } else {
      a2 = (px[1]! * cos - px[2]! * sin) * gain;
      b2 = (px[1]! * sin + px[2]! * cos) * gain;
    }
    oklabToSrgb(l * keep + lift, a2 * keep, b2 * keep, px);
    r[i] = px[0]!;
    g[i] = px[1]!;
    b[i] = px[2]!;
  }
}

/** HSL: values outside 0..1 are brought inside first, for HSL knows nothing beyond. */
function applyHsl(s: HueSaturationSettings, { r, g, b }: Planes, n: number): void {
  const gain = 1 + s.saturation / 100;
  const keep = 1 - Math.abs(s.lightness) / 100;
  const lift = s.lightness > 0 ? s.lightness / 100 : 0;
  const unit = (v: number): number => (v > 0 ? (v < 1 ? v : 1) : 0);
  for (let i = 0; i < n; i++) {
    const x = unit(r[i]!);
    const y = unit(g[i]!);
    const z = unit(b[i]!);
    const max = x > y ? (x > z ? x : z) : y > z ? y : z;
    const min = x < y ? (x < z ? x : z) : y < z ? y : z;
    const d = max - min;
    let l = (max + min) / 2;
    let hue: number;
    let sat: number;
    if (s.colourise) {
      hue = s.colouriseHue;
      sat = s.colouriseSaturation / 100;
    } else {
      hue = s.hue;
      sat = 0;
      if (d > 0) {
        sat = (d / (l < 0.5 ? max + min : 2 - max - min)) * gain;
        hue += 60 * (max === x ? (y - z) / d : max === y ? (z - x) / d + 2 : (x - y) / d + 4);
      }
    }
    if (sat > 1) sat = 1;
    if (hue < 0) hue += 360;
    if (hue >= 360) hue -= 360;
    l = l * keep + lift;
    r[i] = hslChannel(hue, sat, l, 0);
    g[i] = hslChannel(hue, sat, l, 8);
    b[i] = hslChannel(hue, sat, l, 4);
  }
}

export const hueSaturation: Adjustment<'hueSaturation', HueSaturationSettings> = {
  kind: 'hueSaturation',
  name: 'Hue & saturation',
  schema,
  defaults: { model: 'oklch', hue: 0, saturation: 0, lightness: 0, colourise: false, colouriseHue: 30, colouriseSaturation: 25 },
  controls: [
    {
      key: 'model',
      label: 'Model',
      options: [
        ['oklch', 'OKLCh'],
        ['hsl', 'HSL'],
      ],
    },
    { key: 'hue', label: 'Hue', step: 1, unit: '°', signed: true, when: (s) => !s.colourise },
    { key: 'saturation', label: 'Saturation', step: 1, unit: '', signed: true, when: (s) => !s.colourise },
    { key: 'colouriseHue', label: 'Hue', step: 1, unit: '°', when: (s) => s.colourise },
    { key: 'colouriseSaturation', label: 'Saturation', step: 1, unit: '', when: (s) => s.colourise },
    { key: 'lightness', label: 'Lightness', step: 1, unit: '', signed: true },
    { key: 'colourise', label: 'Colourise' },
  ],
  isNeutral: (s) => !s.colourise && s.hue === 0 && s.saturation === 0 && s.lightness === 0,
  apply: (s, pixels, n) => (s.model === 'oklch' ? applyOklch(s, pixels, n) : applyHsl(s, pixels, n)),
};
