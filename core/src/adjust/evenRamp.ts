import type { ColourSpace } from '../base/space.ts';
import { Type, type Static } from '@sinclair/typebox';
import { colourSchema, type Colour } from '../colour/colour.ts';
import { oklabToRgb, rgbToOklab } from '../colour/oklab.ts';
import type { Planes } from '../base/planes.ts';
import type { Adjustment } from './adjustment.ts';
import { drive, DRIVERS, driverSchema, type Driver } from './driver.ts';
import { strict } from './range.ts';
import { madeOnceIn } from '../base/madeOnce.ts';

const schema = Type.Object(
  {
    /** A colour for each value of the driver, evenly from 0 to 1; none: nothing changes. */
    colours: Type.Array(colourSchema, { maxItems: 33 }),
    driver: driverSchema,
  },
  strict,
);
export type EvenRampSettings = Static<typeof schema>;

const STEPS = 1024;
const RAMP = 17;

/** The colours over the driver, between them in OKLab. */
const rampOf = madeOnceIn((space, { colours }: EvenRampSettings) => {
  const labs = colours.map((colour) => {
    const lab = new Float64Array(3);
    rgbToOklab(space, ...colour, lab);
    return lab;
  });
  const ramp = { r: new Float32Array(STEPS + 1), g: new Float32Array(STEPS + 1), b: new Float32Array(STEPS + 1) };
  const rgb = new Float64Array(3);
  for (let i = 0; i <= STEPS; i++) {
    const at = (i / STEPS) * (labs.length - 1);
    const k = Math.min(labs.length - 2, Math.floor(at));
    const [p, q] = [labs[Math.max(0, k)]!, labs[k + 1] ?? labs[0]!];
    const mix = (c: number): number => p[c]! + (q[c]! - p[c]!) * (at - k);
    oklabToRgb(space, mix(0), mix(1), mix(2), rgb);
    ramp.r[i] = rgb[0]!;
    ramp.g[i] = rgb[1]!;
    ramp.b[i] = rgb[2]!;
  }
  return ramp;
});

/**
 * A ramp from a region: for each value of the driver the mean colour (OKLab) of the pixels that have it. Values that hardly any pixel has
 * take the colour of their neighbours.
 * @param weight how much each pixel counts, 0..1
 * @returns none where nothing counts
 */
export function rampFromRegion(space: ColourSpace, pixels: Planes, weight: Float32Array, driver: Driver): Colour[] {
  const n = weight.length;
  const tone = new Float32Array(n);
  drive(space, driver, pixels, n, tone);
  const sums = Array.from({ length: RAMP }, () => [0, 0, 0, 0]);
  const lab = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    const w = weight[i]!;
    if (!(w > 0)) continue;
    rgbToOklab(space, pixels.r[i]!, pixels.g[i]!, pixels.b[i]!, lab);
    const at = Math.max(0, Math.min(1, tone[i]!)) * (RAMP - 1);
    const k = Math.min(RAMP - 2, Math.floor(at));
    for (const [bin, share] of [
      [k, 1 - (at - k)],
      [k + 1, at - k],
    ] as const) {
      const sum = sums[bin]!;
      for (let c = 0; c < 3; c++) sum[c] = sum[c]! + lab[c]! * w * share;
      sum[3] = sum[3]! + w * share;
    }
  }
  const total = sums.reduce((all, sum) => all + sum[3]!, 0);
  if (total === 0) return [];
  const known = sums.map((sum) => sum[3]! > total * 1e-3);
  const rgb = new Float64Array(3);
  return sums.map((_, k) => {
    let nearest = k;
    for (let d = 0; d < RAMP && !known[nearest]; d++) nearest = known[k - d] ? k - d : known[k + d] ? k + d : nearest;
    const sum = sums[nearest]!;
    oklabToRgb(space, sum[0]! / sum[3]!, sum[1]! / sum[3]!, sum[2]! / sum[3]!, rgb);
    return [...rgb].map((v) => Math.max(0, Math.min(1, v))) as Colour;
  });
}

/** Evens out a region: each value of the driver gets the region's own mean colour for it. */
export const evenRamp: Adjustment<'evenRamp', EvenRampSettings> = {
  kind: 'evenRamp',
  name: 'Even-out ramp',
  explains: 'Light that falls off is made even, such as a backdrop',
  group: 'Light',
  schema,
  defaults: { colours: [], driver: 'luminosity' },
  controls: [{ key: 'driver', label: 'Driven by', options: DRIVERS }],
  isNeutral: ({ colours }) => colours.length === 0,
  apply(settings, pixels, n, { space }) {
    const ramp = rampOf(space, settings);
    const tone = new Float32Array(n);
    drive(space, settings.driver, pixels, n, tone);
    for (let i = 0; i < n; i++) {
      const v = tone[i]! * STEPS;
      const k = v > 0 ? (v < STEPS ? (v + 0.5) | 0 : STEPS) : 0;
      pixels.r[i] = ramp.r[k]!;
      pixels.g[i] = ramp.g[k]!;
      pixels.b[i] = ramp.b[k]!;
    }
  },
};
