/** Looks of painting, drawing and print, against the equations that they come from, written out. */
import { describe, expect, it } from 'vitest';
import { createRaster, wholeOf, type Raster, type Size } from '@umbo/core/base';
import { chance, layerOf, picture, rendered } from './adjusting.ts';

const size = { width: 72, height: 48 };
const lumAt = ({ r, g, b }: Raster, i: number): number => (0.3 * r[i]! + 0.59 * g[i]! + 0.11 * b[i]!) / 65535;
const flat = (s: Size, v: number): Raster => {
  const raster = createRaster(wholeOf(s));
  for (const plane of [raster.r, raster.g, raster.b]) plane.fill(v * 65535);
  return raster;
};
const meanOf = (plane: Uint16Array): number => plane.reduce((sum, v) => sum + v / 65535, 0) / plane.length;
const deviation = (plane: Uint16Array): number => {
  const mean = meanOf(plane);
  return Math.sqrt(plane.reduce((sum, v) => sum + (v / 65535 - mean) ** 2, 0) / plane.length);
};

/** A Gaussian mean about a place by its definition; pixels beyond the border repeat it. */
function gaussianAt(value: (i: number) => number, s: Size, x: number, y: number, sigma: number): number {
  let [sum, total] = [0, 0];
  const reach = Math.ceil(sigma * 3);
  for (let j = -reach; j <= reach; j++)
    for (let i = -reach; i <= reach; i++) {
      const u = Math.max(0, Math.min(s.width - 1, x + i));
      const v = Math.max(0, Math.min(s.height - 1, y + j));
      const weight = Math.exp(-(i * i + j * j) / (2 * sigma * sigma));
      sum += weight * value(v * s.width + u);
      total += weight;
    }
  return sum / total;
}

describe('painted', () => {
  it('is the sum of means by their deviation to the minus eighth over that of the weights (Papari et al. 2007, equation 9)', () => {
    const source = picture(size);
    const [stroke, least] = [4, (0.004 + 0.5 * 0.08) ** 2];
    const painted = rendered([layerOf('painted', { size: stroke, soft: 50 })], source, size);
    for (const [x, y] of [
      [20, 20],
      [35, 11],
      [50, 30],
      [3, 44],
    ] as const) {
      let [above, below] = [0, 0];
      for (let k = 0; k < 8; k++) {
        const u = Math.max(0, Math.min(size.width - 1, x + Math.round(stroke * Math.cos((k * Math.PI) / 4))));
        const v = Math.max(0, Math.min(size.height - 1, y + Math.round(stroke * Math.sin((k * Math.PI) / 4))));
        const mean = gaussianAt((i) => lumAt(source, i), size, u, v, stroke / 2);
        const square = gaussianAt((i) => lumAt(source, i) ** 2, size, u, v, stroke / 2);
        const weight = (Math.max(0, square - mean * mean) + least) ** -4;
        above += weight * gaussianAt((i) => source.g[i]! / 65535, size, u, v, stroke / 2);
        below += weight;
      }
      expect(Math.abs(painted.g[y * size.width + x]! / 65535 - above / below)).toBeLessThan(0.01);
    }
  });

  it('takes the grain of a surface away and leaves its edge where it is and as steep', () => {
    const random = chance(3);
    const source = createRaster(wholeOf(size));
    for (let i = 0; i < source.r.length; i++) {
      const v = (i % size.width < 36 ? 0.3 : 0.7) + (random() - 0.5) * 0.1;
      for (const plane of [source.r, source.g, source.b]) plane[i] = v * 65535;
    }
    const [painted, blurred] = [
      rendered([layerOf('painted', { size: 6, soft: 0 })], source, size),
      rendered([layerOf('gaussianBlur', { radius: 3 })], source, size),
    ];
    const left = (raster: Raster): Uint16Array => raster.r.filter((_, i) => i % size.width < 24);
    expect(deviation(left(painted))).toBeLessThan(deviation(left(source)) * 0.35);
    const rise = (raster: Raster): number => (raster.r[24 * 72 + 38]! - raster.r[24 * 72 + 33]!) / 65535;
    expect(rise(painted)).toBeGreaterThan(0.36);
    expect(rise(blurred)).toBeLessThan(0.28);
  });
});

it('a line drawing is the sharpened difference of Gaussians through a soft threshold (Winnemöller et al. 2012, equations 5 and 7)', () => {
  const source = picture(size);
  const layer = layerOf('lineDrawing', { width: 1.5, edges: 30, paper: 60, soft: 50 });
  layer.how.mode = 'normal';
  const drawn = rendered([layer], source, size);
  const [p, from, slope] = [12, 0.6, 17];
  for (const [x, y] of [
    [12, 9],
    [30, 22],
    [45, 40],
    [60, 5],
    [70, 46],
  ] as const) {
    const narrow = gaussianAt((i) => lumAt(source, i), size, x, y, 1.5);
    const wide = gaussianAt((i) => lumAt(source, i), size, x, y, 2.4);
    const sharp = (1 + p) * narrow - p * wide;
    const wanted = sharp >= from ? 1 : Math.max(0, 1 + Math.tanh(slope * (Math.max(0, sharp) - from)));
    expect(Math.abs(drawn.g[y * size.width + x]! / 65535 - wanted)).toBeLessThan(0.03);
  }
  expect(drawn.r).toEqual(drawn.b);
});

describe('a printed screen', () => {
  const large = { width: 240, height: 240 };

  it('covers as much of the paper as the tone is dark, in every ink', () => {
    for (const tone of [0.05, 0.25, 0.5, 0.8, 0.95]) {
      const printed = rendered([layerOf('printScreen', { size: 12, soft: 0 })], flat(large, tone), large);
      for (const plane of [printed.r, printed.g, printed.b]) expect(Math.abs(meanOf(plane) - tone)).toBeLessThan(0.02);
    }
  });

  it('has its dots at an angle of their own for each ink: a cell further along it, all is as it was', () => {
    const printed = rendered([layerOf('printScreen', { size: 10, soft: 40 })], flat(large, 0.5), large);
    for (const [plane, degrees] of [
      [printed.r, 15],
      [printed.g, 75],
      [printed.b, 0],
    ] as const) {
      // Thirteen cells on: far enough to tell an angle by a degree.
      const [dx, dy] = [130 * Math.cos((degrees * Math.PI) / 180), 130 * Math.sin((degrees * Math.PI) / 180)].map(Math.round) as [
        number,
        number,
      ];
      let [same, apart, n] = [0, 0, 0];
      for (let y = 0; y + dy < 240; y += 3)
        for (let x = 0; x + dx < 240; x += 3, n++) {
          const at = plane[y * 240 + x]!;
          same += Math.abs(at - plane[(y + dy) * 240 + x + dx]!) / 65535;
          apart += Math.abs(at - plane[(y + dy) * 240 + ((x + dx + 5) % 240)]!) / 65535;
        }
      expect(same / n).toBeLessThan(apart / n / 3);
    }
  });

  it('finer than the picture shows it is the tones themselves', () => {
    const source = picture(size);
    const printed = rendered([layerOf('printScreen', { size: 4 })], source, { width: 720, height: 480 });
    expect(printed.r).toEqual(source.r);
  });
});

it('paper lies under a tone without making it lighter or darker, and its fibres average out when they get small', () => {
  const large = { width: 192, height: 128 };
  const full = { width: 1920, height: 1280 };
  const papered = (at: Size): Raster => rendered([layerOf('paperTexture', { amount: 60, size: 4, uneven: 0 })], flat(large, 0.6), at);
  const [near, far] = [papered(large), papered(full)];
  expect(Math.abs(meanOf(near.r) - 0.6)).toBeLessThan(0.01);
  expect(deviation(near.r)).toBeGreaterThan(0.01);
  expect(deviation(far.r)).toBeLessThan(deviation(near.r) * 0.5);
});
