import { lumOf } from '../colour/luminosity.ts';
import { Type, type Static } from '@sinclair/typebox';
import { hslChannel } from '../colour/hsl.ts';
import { smoothStep } from '../base/number.ts';
import type { Adjustment } from './adjustment.ts';
import { hueDegrees, percent, signedPercent, strict } from './range.ts';
import { madeOnce } from '../base/madeOnce.ts';

const schema = Type.Object(
  {
    /** HSL hues, and how much of them. */
    highlightsHue: hueDegrees,
    highlightsSaturation: percent,
    shadowsHue: hueDegrees,
    shadowsSaturation: percent,
    /** Below 0 more of the tones count as shadows, above 0 more as highlights. */
    balance: signedPercent,
  },
  strict,
);
export type SplitToningSettings = Static<typeof schema>;

const STEPS = 1024;

/** What each channel gains over the luminosity: the hue without its own luminosity, most in the middle of its half. */
const shiftsOf = madeOnce((s: SplitToningSettings) => {
  const tint = (hue: number, saturation: number): number[] => {
    const [r, g, b] = [0, 8, 4].map((n) => hslChannel(hue % 360, 1, 0.5, n)) as [number, number, number];
    const lum = lumOf(r, g, b);
    return [r, g, b].map((v) => (v - lum) * (saturation / 100) * 0.5);
  };
  const [high, low] = [tint(s.highlightsHue, s.highlightsSaturation), tint(s.shadowsHue, s.shadowsSaturation)];
  const middle = 0.5 - s.balance * 0.004;
  return [0, 1, 2].map((c) =>
    Float32Array.from({ length: STEPS + 1 }, (_, i) => {
      const v = i / STEPS;
      const lights = smoothStep((v - middle + 0.35) / 0.7);
      return (high[c]! * lights + low[c]! * (1 - lights)) * Math.min(1, 6 * Math.min(v, 1 - v));
    }),
  ) as [Float32Array, Float32Array, Float32Array];
});

/** One hue into the highlights, another into the shadows; the luminosity (Lum of W3C Compositing and Blending Level 1) stays. */
export const splitToning: Adjustment<'splitToning', SplitToningSettings> = {
  kind: 'splitToning',
  name: 'Split toning',
  explains: 'One tint in the shadows, another in the highlights',
  group: 'A look',
  schema,
  defaults: { highlightsHue: 45, highlightsSaturation: 0, shadowsHue: 220, shadowsSaturation: 0, balance: 0 },
  controls: [
    { key: 'highlightsHue', label: 'Hue', step: 1, unit: '°', scale: 'hsl', section: 'Highlights' },
    { key: 'highlightsSaturation', label: 'Saturation', step: 1, section: 'Highlights' },
    { key: 'shadowsHue', label: 'Hue', step: 1, unit: '°', scale: 'hsl', section: 'Shadows' },
    { key: 'shadowsSaturation', label: 'Saturation', step: 1, section: 'Shadows' },
    { key: 'balance', label: 'Balance', step: 1, signed: true },
  ],
  isNeutral: (s) => s.highlightsSaturation === 0 && s.shadowsSaturation === 0,
  apply(settings, { r, g, b }, n) {
    const [red, green, blue] = shiftsOf(settings);
    for (let i = 0; i < n; i++) {
      const l = lumOf(r[i]!, g[i]!, b[i]!);
      const k = l > 0 ? (l < 1 ? (l * STEPS + 0.5) | 0 : STEPS) : 0;
      r[i] = r[i]! + red[k]!;
      g[i] = g[i]! + green[k]!;
      b[i] = b[i]! + blue[k]!;
    }
  },
};
