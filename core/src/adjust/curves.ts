import { clamp } from '../base/number.ts';
import { Type, type Static, type TSchema } from '@sinclair/typebox';
import { planesFromOklab, planesToOklab } from '../colour/oklabPlanes.ts';
import type { Adjustment } from './adjustment.ts';
import { driverOf, FULL_CHROMA, type Driver } from './driver.ts';
import { monotoneCubic } from './monotoneCubic.ts';
import { type Dial, rounded } from '../base/dial.ts';
import { strict } from './range.ts';
import { madeOnce } from '../base/madeOnce.ts';
import { channelTable, lookUp, throughTable } from './table.ts';

export type CurvePoint = [number, number];
const share = Type.Number({ minimum: 0, maximum: 1 });
const point = Type.Unsafe<CurvePoint>(Type.Array(share, { minItems: 2, maxItems: 2 }) as unknown as TSchema);
/** Points [input, output], 0..1, inputs growing; none or two at the ends: nothing changes. */
const curve = Type.Array(point, { maxItems: 32 });
const schema = Type.Object(
  {
    rgb: curve,
    r: curve,
    g: curve,
    b: curve,
    /** OKLab lightness. */
    lightness: curve,
    /** OKLCh chroma, 1 standing for {@link FULL_CHROMA}. */
    chroma: curve,
  },
  strict,
);
export type CurvesSettings = Static<typeof schema>;
export type CurveChannel = keyof CurvesSettings;

/** Two points nearer to each other than this are one. */
export const CURVE_GAP = 1 / 255;

export const CURVE_CHANNELS: readonly (readonly [CurveChannel, string])[] = [
  ['rgb', 'RGB'],
  ['r', 'Red'],
  ['g', 'Green'],
  ['b', 'Blue'],
  ['lightness', 'Lightness'],
  ['chroma', 'Chroma'],
];

const straight = (): CurvePoint[] => [
  [0, 0],
  [1, 1],
];
const isStraight = (points: readonly CurvePoint[]): boolean => points.every(([x, y]) => x === y);

/** A curve as a function: points in order, those that stand on each other joined. */
export function curveOf(points: readonly CurvePoint[]): (x: number) => number {
  const sorted = [...points].sort((a, b) => a[0] - b[0]);
  return monotoneCubic(sorted.filter(([x], i) => i === 0 || x - sorted[i - 1]![0] > 1e-6));
}

/** A curve at one input: the point that stands there, or a new one. */
const dialAt = (channel: 'r' | 'g' | 'b', x: number): Dial<CurvesSettings> => ({
  read: (settings) => curveOf(settings[channel])(x),
  write(settings, value) {
    const y = rounded(clamp(value, 0, 1), 0.0001);
    const points = settings[channel];
    const there = points.find((point) => Math.abs(point[0] - x) < CURVE_GAP);
    if (there) there[1] = y;
    else points.push([rounded(x, 0.0001), y]);
    points.sort((a, b) => a[0] - b[0]);
  },
  bounds: [0, 1],
  step: 0.03,
});

/** Inputs nearer to each other, or to an end, than this are moved by one point. */
const APART = 0.06;

const tablesOf = madeOnce((settings: CurvesSettings) => {
  const all = curveOf(settings.rgb);
  const one = (points: CurvePoint[]): Float32Array | null => {
    if (isStraight(points) && isStraight(settings.rgb)) return null;
    const own = curveOf(points);
    return channelTable((v) => all(own(v)));
  };
  const alone = (points: CurvePoint[]): Float32Array | null => (isStraight(points) ? null : channelTable(curveOf(points)));
  return {
    r: one(settings.r),
    g: one(settings.g),
    b: one(settings.b),
    lightness: alone(settings.lightness),
    chroma: alone(settings.chroma),
  };
});

/** What of a colour goes into a channel's curve. */
export const CURVE_DRIVERS: Record<CurveChannel, Driver> = {
  rgb: 'luminosity',
  r: 'red',
  g: 'green',
  b: 'blue',
  lightness: 'lightness',
  chroma: 'chroma',
};

/** Curves for the channels together and each, for lightness and chroma. */
export const curves: Adjustment<'curves', CurvesSettings> = {
  kind: 'curves',
  name: 'Curves',
  explains: 'Any tone to any other, by a line you draw',
  group: 'Light',
  schema,
  defaults: { rgb: straight(), r: straight(), g: straight(), b: straight(), lightness: straight(), chroma: straight() },
  controls: [],
  isNeutral: (settings) => CURVE_CHANNELS.every(([channel]) => isStraight(settings[channel])),
  dials: (_settings, { colours }) =>
    (['r', 'g', 'b'] as const).flatMap((channel, c) => {
      const inputs: number[] = [];
      for (const colour of colours) {
        const x = clamp(colour[c]!, APART, 1 - APART);
        if (inputs.every((other) => Math.abs(other - x) >= APART)) inputs.push(x);
      }
      return inputs.map((x) => dialAt(channel, x));
    }),
  apply(settings, pixels, n, { space }) {
    const { lightness, chroma, ...rgb } = tablesOf(settings);
    for (const plane of ['r', 'g', 'b'] as const) if (rgb[plane]) throughTable(pixels[plane], n, rgb[plane]);
    if (!lightness && !chroma) return;
    planesToOklab(space, pixels, n);
    if (lightness) throughTable(pixels.r, n, lightness);
    if (chroma) {
      const { g, b } = pixels;
      for (let i = 0; i < n; i++) {
        const c = Math.sqrt(g[i]! * g[i]! + b[i]! * b[i]!);
        if (c < 1e-6) continue;
        const gain = (lookUp(chroma, c / FULL_CHROMA) * FULL_CHROMA) / c;
        g[i] = g[i]! * gain;
        b[i] = b[i]! * gain;
      }
    }
    planesFromOklab(space, pixels, n);
  },
  pull: {
    qualities: CURVE_CHANNELS,
    drag(settings, colour, quality, by, space) {
      const channel = quality as CurveChannel;
      const points = settings[channel];
      const x = clamp(driverOf(space, CURVE_DRIVERS[channel], colour), 0, 1);
      let at = points.findIndex((candidate) => Math.abs(candidate[0] - x) < 0.02);
      if (at < 0) {
        if (points.length >= 32) return null;
        points.push([x, curveOf(points)(x)]);
        points.sort((a, b) => a[0] - b[0]);
        at = points.findIndex((candidate) => candidate[0] === x);
      }
      points[at] = [points[at]![0], clamp(points[at]![1] + by, 0, 1)];
      const [from, to] = points[at]!.map((v) => Math.round(v * (channel === 'lightness' || channel === 'chroma' ? 100 : 255)));
      return `${CURVE_CHANNELS.find(([id]) => id === channel)![1]} curve: ${from} to ${to}`;
    },
  },
};
