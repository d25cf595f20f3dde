/** A gradient map's stops, found in a region: against ramps whose tones are known. */
import { describe, expect, it } from 'vitest';
import { createRaster, wholeOf, type Raster } from '@umbo/core/base';
import { adjustmentLayer } from '@umbo/core/document';
import { measurement } from '@umbo/core/measure';

type Rgb = readonly [number, number, number];
const grey: Rgb = [0.5, 0.5, 0.5];

describe('stops of a gradient map', () => {
  const ramp = (at: (x: number) => Rgb): Raster => {
    const raster = createRaster(wholeOf({ width: 200, height: 4 }));
    for (let i = 0; i < raster.r.length; i++) {
      const colour = at(((i % 200) + 0.5) / 200);
      for (const [c, plane] of [raster.r, raster.g, raster.b].entries()) plane[i] = Math.round(colour[c]! * 65535);
    }
    return raster;
  };
  const stopsOf = (picture: Raster, weight: Uint16Array | null = null) =>
    measurement('toneStops').measure({ driver: 'luminosity' }, { picture, weight, scale: { picture: picture.area, full: picture.area } });

  it('stand at the tones that are there, evenly by how much there is of them, in their colours', () => {
    // Luminosities of a grey ramp are even: so are the stops.
    const stops = stopsOf(ramp((x) => [x, x, x]));
    for (const [i, share] of [0.02, 0.25, 0.5, 0.75, 0.98].entries()) {
      expect(stops[i]!.at).toBeCloseTo(share, 1);
      for (const v of stops[i]!.colour) expect(v).toBeCloseTo(stops[i]!.at, 1);
    }
    // Of two tones there are two stops, of one a single one, of nothing none.
    const two = stopsOf(ramp((x) => (x < 0.6 ? [0.2, 0.1, 0.1] : [0.8, 0.7, 0.5])));
    expect(two.map(({ at }) => at)).toEqual([expect.closeTo(0.13, 2), expect.closeTo(0.708, 2)]);
    for (const [c, v] of [0.8, 0.7, 0.5].entries()) expect(two[1]!.colour[c]).toBeCloseTo(v, 2);
    expect(stopsOf(ramp(() => grey))).toHaveLength(1);
    expect(
      stopsOf(
        ramp((x) => [x, x, x]),
        new Uint16Array(800),
      ),
    ).toEqual([]);
    // What a mask leaves out does not count.
    const right = Uint16Array.from({ length: 800 }, (_, i) => (i % 200 < 100 ? 0 : 65535));
    expect(
      stopsOf(
        ramp((x) => [x, x, x]),
        right,
      )[0]!.at,
    ).toBeGreaterThan(0.49);
  });

  it('are written into a gradient map with their driver, and one alone is not', () => {
    const layer = adjustmentLayer('m', 'gradientMap', 'M');
    const before = structuredClone(layer);
    const { apply } = measurement('toneStops');
    apply!(stopsOf(ramp(() => grey)), { driver: 'luminosity' }, layer);
    expect(layer).toEqual(before);
    const stops = stopsOf(ramp((x) => [x, x * 0.8, 0.3]));
    apply!(stops, { driver: 'red' }, layer);
    expect(layer.what.settings).toEqual({ stops, driver: 'red' });
  });
});
