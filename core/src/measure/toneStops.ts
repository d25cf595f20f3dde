import { drive, type Driver } from '../adjust/driver.ts';
import type { SettingsOf } from '../adjust/registry.ts';
import { createPlanes, readRaster } from '../base/planes.ts';
import type { Colour } from '../colour/colour.ts';
import { oklabToRgb, rgbToOklab } from '../colour/oklab.ts';
import { spaceOf } from '../colour/spaces.ts';
import { writeContent } from './content.ts';
import type { Measurement } from './measurement.ts';

/** Shares of a region's pixels that are darker than a stop: near both ends, and evenly between. Common practice, no source. */
const SHARES = [0.02, 0.25, 0.5, 0.75, 0.98];
/** Pixels within so much of the driver make a stop's colour, and two stops are at least so far apart. */
const NEAR = 0.03;

type Stops = SettingsOf<'gradientMap'>['stops'];

/** Stops of a gradient map that is the region's own: at the tones that are there, of the colour that it has at each. None where nothing counts. */
export const toneStops: Measurement<'toneStops', { driver: Driver }, Stops> = {
  kind: 'toneStops',
  needs: 'picture',
  measure({ driver }, { picture, weight, scale }) {
    const n = picture.r.length;
    const space = spaceOf(scale);
    const pixels = createPlanes(n);
    readRaster(picture, picture.area, pixels);
    const tones = new Float32Array(n);
    drive(space, driver, pixels, n, tones);
    const shareAt = (i: number): number => (weight ? weight[i]! / 65535 : 1);
    const order = Array.from({ length: n }, (_, i) => i)
      .filter((i) => shareAt(i) > 0)
      .sort((a, b) => tones[a]! - tones[b]!);
    const total = order.reduce((sum, i) => sum + shareAt(i), 0);
    const stops: Stops = [];
    let [passed, next] = [0, 0];
    for (const i of order) {
      passed += shareAt(i);
      while (next < SHARES.length && passed >= SHARES[next]! * total) {
        next++;
        const at = Math.min(1, Math.max(0, tones[i]!));
        if (stops.length > 0 && at - stops.at(-1)!.at < NEAR) continue;
        stops.push({ at: Number(at.toFixed(4)), colour: [0, 0, 0], opacity: 1 });
      }
    }
    const lab = new Float64Array(3);
    for (const stop of stops) {
      const sum = [0, 0, 0, 0];
      for (const i of order) {
        if (Math.abs(tones[i]! - stop.at) > NEAR) continue;
        rgbToOklab(space, pixels.r[i]!, pixels.g[i]!, pixels.b[i]!, lab);
        for (let c = 0; c < 3; c++) sum[c]! += lab[c]! * shareAt(i);
        sum[3]! += shareAt(i);
      }
      oklabToRgb(space, sum[0]! / sum[3]!, sum[1]! / sum[3]!, sum[2]! / sum[3]!, lab);
      stop.colour = Array.from(lab, (v) => Math.min(1, Math.max(0, v))) as Colour;
    }
    return stops;
  },
  // One tone alone makes no gradient.
  apply: (stops, { driver }, layer) =>
    writeContent(layer, 'gradientMap', (settings) => {
      if (stops.length >= 2) Object.assign(settings, { stops, driver });
    }),
};
