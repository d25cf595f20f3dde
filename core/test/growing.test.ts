/** What grows from strokes, against the linear equations that it solves; how varied and how large regions are, against brute force. */
import { Matrix, solve } from 'ml-matrix';
import { standardDeviation } from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { createRaster, noPictures, withOverview, wholeOf, type Raster, type Size } from '@umbo/core/base';
import { rgbToOklch, srgb } from '@umbo/core/colour';
import { maskPartKind, renderMask, type GrownPart, type Mask, type Stroke } from '@umbo/core/mask';
import { measurement } from '@umbo/core/measure';
import { grow } from '../src/mask/growing.ts';

const stroke = (points: number[], erase: boolean, size = 3): Stroke => ({
  id: points.join(),
  size,
  hardness: 1,
  flow: 1,
  opacity: 1,
  erase,
  points: points.flatMap((v, i) => (i % 2 === 0 ? [v] : [v, 1])),
});
const grown = (...strokes: Stroke[]): Mask => ({
  parts: [{ ...maskPartKind<GrownPart>('grown').create('g', 'add', { width: 1, height: 1 }), strokes }],
  refine: [],
  strength: 1,
  invert: false,
});
const render = (mask: Mask, full: Size, raster: Raster): Uint16Array =>
  renderMask(mask, { picture: raster.area, full }, wholeOf(raster.area), raster, withOverview(noPictures, raster));

describe('what grows from strokes', () => {
  it('is where random walks end, as the equations of Grady 2006 say: on an even ground, with as much for either side', () => {
    const size = { width: 14, height: 11 };
    const n = size.width * size.height;
    const lab = { l: new Float32Array(n).fill(50), a: new Float32Array(n), b: new Float32Array(n) };
    const seeds = new Int8Array(n);
    // Enough of either side for a mixture of colours.
    for (let y = 0; y < size.height; y++) {
      seeds.fill(1, y * size.width, y * size.width + 3);
      seeds.fill(-1, y * size.width + 11, y * size.width + 14);
    }
    seeds[5 * size.width + 6] = 1;
    const found = grow(lab, size, seeds);
    const [system, right] = [Matrix.eye(n), Matrix.zeros(n, 1)];
    for (let i = 0; i < n; i++) {
      const [x, y] = [i % size.width, Math.floor(i / size.width)];
      if (seeds[i] !== 0) {
        right.set(i, 0, seeds[i]! > 0 ? 1 : 0);
        continue;
      }
      // The prior: a hundredth, as much for inside as for outside, and a twentieth of it more for outside.
      let weight = 0.01 * (0.5 + 0.55);
      for (const [dx, dy] of [-1, 0, 1].flatMap((dx) => [-1, 0, 1].map((dy) => [dx, dy] as const))) {
        const [u, v] = [x + dx, y + dy];
        if ((dx === 0 && dy === 0) || u < 0 || v < 0 || u >= size.width || v >= size.height) continue;
        const step = (1 + 1e-4) * (dx !== 0 && dy !== 0 ? Math.SQRT1_2 : 1);
        weight += step;
        system.set(i, v * size.width + u, -step);
      }
      system.set(i, i, weight);
      right.set(i, 0, 0.01 * 0.5);
    }
    const exact = solve(system, right).to1DArray();
    let compared = 0;
    for (const [i, value] of exact.entries()) {
      if (Math.abs(value - 0.5) < 0.02) continue;
      // What belongs to it less than half is not joined with it.
      expect(Math.abs(found[i]! - (value > 0.5 ? value : 0))).toBeLessThan(0.01);
      compared++;
    }
    expect(compared).toBeGreaterThan(n * 0.9);
  });

  it('is the disc that a stroke lies in, and no other of its colour; nothing while a side is missing', () => {
    const full = { width: 120, height: 80 };
    const raster = createRaster(wholeOf(full));
    const inDisc = (x: number, y: number, cx: number): boolean => (x - cx) ** 2 + (y - 40) ** 2 < 400;
    for (let i = 0; i < 9600; i++) {
      const [x, y] = [i % 120, Math.floor(i / 120)];
      const disc = inDisc(x, y, 30) || inDisc(x, y, 90);
      raster.r[i] = (disc ? 48000 : 22000) + ((i * 37) % 1500);
      raster.g[i] = (disc ? 20000 : 26000) + ((i * 53) % 1500);
      raster.b[i] = 21000 + ((i * 71) % 1500);
    }
    const inside = stroke([22, 40, 38, 40], false);
    const outside = stroke([5, 5, 60, 8, 60, 70, 8, 75], true);
    const mask = render(grown(inside, outside), full, raster);
    let [both, either] = [0, 0];
    for (let i = 0; i < 9600; i++) {
      const [a, b] = [mask[i]! > 32767, inDisc(i % 120, Math.floor(i / 120), 30)];
      if (a && b) both++;
      if (a || b) either++;
    }
    expect(both / either).toBeGreaterThan(0.97);
    for (const alone of [[inside], [outside], []]) expect(Math.max(...render(grown(...alone), full, raster))).toBe(0);
    // Of strokes much thinner than a pixel of the grid, the pixels under them count.
    const large = { width: 12_000, height: 8000 };
    const thin = ({ points, ...stroke }: Stroke): Stroke => ({
      ...stroke,
      size: 0.5,
      points: points.map((v, i) => (i % 3 === 2 ? v : v * 100)),
    });
    const fine = render(grown(thin(inside), thin(outside)), large, { ...raster });
    expect(fine[40 * 120 + 30]).toBeGreaterThan(60_000);
    expect(fine[40 * 120 + 90]).toBe(0);
    // A later stroke counts: taken back to the outside, there is nothing to grow from.
    expect(Math.max(...render(grown(inside, outside, stroke([22, 40, 38, 40], true, 6)), full, raster))).toBe(0);
  });
});

describe('what is measured of a region', () => {
  const raster = createRaster(wholeOf({ width: 40, height: 30 }));
  const weight = new Uint16Array(1200);
  for (let i = 0; i < 1200; i++) {
    raster.r[i] = 30000 + ((i * 7919) % 20000);
    raster.g[i] = 20000 + ((i * 104729) % 9000);
    raster.b[i] = 12000 + ((i * 1299709) % 9000);
    if (i % 3 === 0) weight[i] = 65535;
  }
  const of = { picture: raster, weight, scale: { picture: raster.area, full: raster.area } };

  it('are its spreads, as simple-statistics has them of the OKLCh of its pixels', () => {
    const pixels = Array.from(weight.entries()).flatMap(([i, w]) =>
      w > 0 ? [rgbToOklch(srgb, raster.r[i]! / 65535, raster.g[i]! / 65535, raster.b[i]! / 65535)] : [],
    );
    const found = measurement('spreads').measure({}, of)!;
    expect(found.lightness).toBeCloseTo(standardDeviation(pixels.map(({ l }) => l)), 4);
    expect(found.chroma).toBeCloseTo(standardDeviation(pixels.map(({ c }) => c)), 4);
    // All of these hues lie on one side of the circle: none has to be turned.
    expect(found.hue).toBeCloseTo(standardDeviation(pixels.map(({ h }) => (h > 180 ? h - 360 : h))), 2);
    expect(measurement('spreads').measure({}, { ...of, weight: new Uint16Array(1200) })).toBeNull();
  });

  it('is its share of the photograph', () => {
    expect(measurement('cover').measure({}, of)).toBeCloseTo(1 / 3, 5);
    expect(measurement('cover').measure({}, { ...of, weight: null })).toBe(1);
  });
});
