import { gradientRamp, gradientStop } from '../colour/gradient.ts';
import { Type, type Static } from '@sinclair/typebox';
import type { Adjustment } from './adjustment.ts';
import { colourDials } from '../base/dial.ts';
import { clamp } from '../base/number.ts';
import { drive, driverOf, DRIVERS, driverSchema } from './driver.ts';
import { strict } from './range.ts';
import { madeOnceIn } from '../base/madeOnce.ts';

const schema = Type.Object({ stops: Type.Array(gradientStop, { minItems: 2, maxItems: 16 }), driver: driverSchema }, strict);
export type GradientMapSettings = Static<typeof schema>;

const rampOf = madeOnceIn((space, { stops }: GradientMapSettings) => gradientRamp(space, stops));

/** Each tone becomes the colour at its place on a ramp, interpolated in OKLab; where a stop is not opaque, what is below stays. */
export const gradientMap: Adjustment<'gradientMap', GradientMapSettings> = {
  kind: 'gradientMap',
  name: 'Gradient map',
  explains: 'Tones become the colours of a gradient',
  group: 'A look',
  schema,
  defaults: {
    stops: [
      { at: 0, colour: [0, 0, 0], opacity: 1 },
      { at: 1, colour: [1, 1, 1], opacity: 1 },
    ],
    driver: 'luminosity',
  },
  controls: [{ key: 'driver', label: 'Driven by', options: DRIVERS }],
  isNeutral: ({ stops }) => stops.every(({ opacity }) => opacity === 0),
  dials({ stops, driver }, { space, colours }) {
    const nearest = colours.map((colour) => {
      const at = driverOf(space, driver, [...colour]);
      return stops.reduce((best, stop, i) => (Math.abs(stop.at - at) < Math.abs(stops[best]!.at - at) ? i : best), 0);
    });
    return [...new Set(nearest)].flatMap((i) => colourDials<GradientMapSettings>((settings) => settings.stops[i]?.colour));
  },
  apply(settings, pixels, n, { space }) {
    const ramp = rampOf(space, settings);
    const last = ramp.r.length - 1;
    const tone = new Float32Array(n);
    drive(space, settings.driver, pixels, n, tone);
    const { r, g, b } = pixels;
    for (let i = 0; i < n; i++) {
      const v = tone[i]! * last;
      const k = v > 0 ? (v < last ? (v + 0.5) | 0 : last) : 0;
      const a = ramp.a[k]!;
      r[i] = r[i]! + (ramp.r[k]! - r[i]!) * a;
      g[i] = g[i]! + (ramp.g[k]! - g[i]!) * a;
      b[i] = b[i]! + (ramp.b[k]! - b[i]!) * a;
    }
  },
  takeColour(settings, colour, chosen, space, sampled) {
    const stop = settings.stops[Math.min(chosen, settings.stops.length - 1)];
    if (!stop) return;
    stop.colour = [...colour];
    // It stands for the tone that it was found at.
    if (sampled) stop.at = clamp(Number(driverOf(space, settings.driver, colour).toFixed(4)), 0, 1);
  },
};
