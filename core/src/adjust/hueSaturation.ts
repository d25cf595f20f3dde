import { Type, type Static } from '@sinclair/typebox';
import { hslChannel } from '../colour/hsl.ts';
import { oklabToSrgb, srgbToOklab } from '../colour/oklab.ts';
import { acceleration } from '../render/acceleration.ts';
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
function applyOklch(s: HueSaturationSettings, pixels: Planes, n: number): void {
  const keep = 1 - Math.abs(s.lightness) / 100;
  const lift = s.lightness > 0 ? s.lightness / 100 : 0;
  if (s.colourise) {
    colouriseOklch(s, pixels, n, keep, lift);
    return;
  }
  const gain = (1 + s.saturation / 100) * keep;
  const [ca, cb] = [Math.cos(s.hue * RADIANS) * gain, Math.sin(s.hue * RADIANS) * gain];
  if (acceleration) acceleration.turnOklab(pixels, n, ca, cb, keep, lift);
  else turnOklab(pixels, n, ca, cb, keep, lift);
}

/** The definition of {@link Acceleration.turnOklab}. */
export function turnOklab({ r, g, b }: Planes, n: number, ca: number, cb: number, keep: number, lift: number): void {
  const px = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    srgbToOklab(r[i]!, g[i]!, b[i]!, px);
    const a = px[1]!;
    const d = px[2]!;
    oklabToSrgb(px[0]! * keep + lift, a * ca - d * cb, a * cb + d * ca, px);
    r[i] = px[0]!;
    g[i] = px[1]!;
    b[i] = px[2]!;
  }
}

function colouriseOklch(s: HueSaturationSettings, { r, g, b }: Planes, n: number, keep: number, lift: number): void {
  const chroma = 0.32 * (s.colouriseSaturation / 100) * keep;
  const tintA = Math.cos(s.colouriseHue * RADIANS) * chroma;
  const tintB = Math.sin(s.colouriseHue * RADIANS) * chroma;
  const px = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    srgbToOklab(r[i]!, g[i]!, b[i]!, px);
    const l = px[0]!;
    const amount = l > 0 && l < 1 ? 4 * l * (1 - l) : 0;
    oklabToSrgb(l * keep + lift, tintA * amount, tintB * amount, px);
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
