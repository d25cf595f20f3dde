/** Lighting up pixels: by the same measures as histograms and censuses, so that what lights up is what a bar counts. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DRIVERS } from '@umbo/core/adjust';
import { createPlanes, createRaster, readRaster, wholeOf, type Raster } from '@umbo/core/base';
import { hueMembership, srgb } from '@umbo/core/colour';
import { CENSUS_BINS, histogramOf, hueCensus, litAbout, litHues, litSteps, measureHue, type LitBy } from '@umbo/core/measure';

const picture = (colours: readonly (readonly [number, number, number])[]): Raster => {
  const raster = createRaster(wholeOf({ width: colours.length, height: 1 }));
  for (const [i, [r, g, b]] of colours.entries()) [raster.r[i], raster.g[i], raster.b[i]] = [r, g, b];
  return raster;
};
const channel = fc.integer({ min: 0, max: 65535 });
const pictures = fc.array(fc.tuple(channel, channel, channel), { minLength: 1, maxLength: 40 }).map(picture);
function stepsOf(raster: Raster, by: LitBy): Int16Array {
  const n = raster.r.length;
  const planes = createPlanes(n);
  readRaster(raster, raster.area, planes);
  const out = new Int16Array(n);
  litSteps(srgb, by, planes, n, out);
  return out;
}

it('a histogram says in how many pixels a channel is at an end, weighted as the pixels are', () => {
  const end = fc.constantFrom(0, 100, 200, 30_000, 65_380, 65_480, 65_535);
  fc.assert(
    fc.property(fc.array(fc.tuple(end, end, end, channel), { minLength: 1, maxLength: 30 }), (rows) => {
      const weight = Uint16Array.from(rows, ([, , , w]) => w);
      const { clipped } = histogramOf(srgb, picture(rows.map(([r, g, b]): [number, number, number] => [r, g, b])), weight);
      // Half of an eight-bit step is 128.5 of 65535.
      const share = (is: (v: number) => boolean): number => {
        const all = rows.reduce((sum, row) => sum + row[3], 0);
        return all === 0 ? 0 : rows.reduce((sum, row) => sum + (row.slice(0, 3).some(is) ? row[3] : 0), 0) / all;
      };
      expect(clipped.low).toBeCloseTo(share((v) => v <= 128), 6); // prettier-ignore
      expect(clipped.high).toBeCloseTo(share((v) => v >= 65_407), 6); // prettier-ignore
    }),
  );
});

describe('what is lit up', () => {
  it('is what the bar of a histogram counts, whatever it is of', () => {
    fc.assert(
      fc.property(pictures, (raster) => {
        const histogram = histogramOf(srgb, raster);
        for (const [driver] of DRIVERS) {
          const bins = histogram[driver];
          const steps = stepsOf(raster, driver);
          // A step is narrower than a bar: those that lie whole in one have its share at most, and all of them together are all.
          const counted = new Float64Array(bins.length);
          for (const step of steps) {
            expect(step).toBeGreaterThanOrEqual(0);
            const [from, to] = [Math.floor((step / 360) * bins.length), Math.floor(((step + 0.999) / 360) * bins.length)];
            if (from === to) counted[from]! += 1 / steps.length;
          }
          for (const [k, share] of counted.entries()) expect(share).toBeLessThanOrEqual(bins[k]! + 1e-6);
        }
      }),
    );
  });

  it('is what the bar of a census counts; greys have no hue to light up', () => {
    fc.assert(
      fc.property(pictures, fc.constantFrom('oklch' as const, 'hsl' as const), (raster, model) => {
        const census = hueCensus(srgb, raster, undefined, model);
        // Pixels are measured in single precision here: a hue on the border of two bars may lie in either.
        for (const step of stepsOf(raster, model)) {
          if (step < 0) continue;
          const bin = Math.floor((step / 360) * CENSUS_BINS);
          const near = [bin - 1, bin, bin + 1].map((k) => census[(k + CENSUS_BINS) % CENSUS_BINS]!);
          expect(Math.max(...near)).toBeGreaterThan(0);
        }
      }),
    );
    expect([...stepsOf(picture([[30000, 30000, 30000]]), 'oklch'), ...stepsOf(picture([[9, 9, 9]]), 'hsl')]).toEqual([-1, -1]);
  });

  it('is a range of hues as masks and adjustments have it', () => {
    const span = fc.record({ from: fc.integer({ min: 0, max: 359 }), fadeIn: fc.nat(60), span: fc.nat(120), fadeOut: fc.nat(60) });
    fc.assert(
      fc.property(span, (range) => {
        const { shares } = litHues('oklch', range);
        for (const [i, share] of shares.entries()) expect(share).toBeCloseTo(hueMembership(range, i + 0.5), 5);
      }),
    );
  });

  it('lies about the place that is pointed at: all of it there, none of it further away, round the circle for hues', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<LitBy>('luminosity', 'red', 'chroma', 'oklch', 'hsl'),
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        (by, at) => {
          const { shares } = litAbout(by, at, 0.02);
          const isHue = by === 'oklch' || by === 'hsl';
          for (const [i, share] of shares.entries()) {
            const away = Math.abs((i + 0.5) / 360 - at);
            const distance = isHue ? Math.min(away, 1 - away) : away;
            if (distance < 0.008) expect(share).toBe(1);
            if (distance > 0.045) expect(share).toBe(0);
          }
        },
      ),
    );
  });

  it('measures a hue as a share of the circle', () => {
    const measured = new Float64Array(3);
    measureHue('hsl', srgb, 0, 1, 0, measured);
    expect(measured[0]! * 360).toBeCloseTo(121, 0);
    expect(measured[1]).toBe(1);
  });
});
