/** Adjustments that look at what surrounds a pixel, and filters: against libvips and the papers that they come from. */
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { adjustment, darkChannel, hazeLight, reachOfFilter, type AdjustmentContent } from '@umbo/core/adjust';
import { createRaster, wholeOf, type Raster, type Size } from '@umbo/core/base';
import { srgbToLinear, type Colour } from '@umbo/core/colour';
import { guidedPlanes, guidedReach } from '@umbo/core/filter';
import { chance, everyAdjustment, layerOf, picture, rendered } from './adjusting.ts';

describe('what looks around', () => {
  const size = { width: 96, height: 64 };
  const grey = picture(size);
  grey.g.set(grey.r);
  grey.b.set(grey.r);

  it('blur and unsharp masking are those of libvips', async () => {
    for (const sigma of [1.5, 6]) {
      const blurred = await sharp(grey.r, { raw: { width: 96, height: 64, channels: 1 } })
        .toColourspace('grey16')
        .blur({ sigma, precision: 'float', minAmplitude: 0.001 })
        .raw({ depth: 'ushort' })
        .toBuffer();
      const theirs = new Uint16Array(blurred.buffer, blurred.byteOffset, 96 * 64);
      const ours = rendered([layerOf('gaussianBlur', { radius: sigma })], grey, size);
      const sharpened = rendered([layerOf('unsharp', { radius: sigma, amount: 120, threshold: 0 })], grey, size);
      const inside = (i: number): boolean => i % 96 > 20 && i % 96 < 76 && i / 96 > 20 && i / 96 < 44;
      for (let i = 0; i < theirs.length; i++) {
        if (!inside(i)) continue;
        expect(Math.abs(ours.r[i]! - theirs[i]!) / 257).toBeLessThan(1.5);
        const expected = Math.max(0, Math.min(65535, grey.r[i]! + 1.2 * (grey.r[i]! - theirs[i]!)));
        expect(Math.abs(sharpened.r[i]! - expected) / 257).toBeLessThan(2);
      }
    }
  });

  it('the dark channel is the paper’s, and haze of a known colour and thickness is taken away', () => {
    const source = picture(size);
    const patch = 3;
    const dark = darkChannel(source, [0.9, 0.8, 1], patch);
    for (const [x, y] of [[0, 0], [40, 30], [95, 63], [12, 50]] as const) {
      let least = 65535;
      for (let v = Math.max(0, y - patch); v <= Math.min(63, y + patch); v++)
        for (let u = Math.max(0, x - patch); u <= Math.min(95, x + patch); u++)
          for (const [plane, light] of [[source.r, 0.9], [source.g, 0.8], [source.b, 1]] as const) least = Math.min(least, plane[v * 96 + u]! / light);
      expect(Math.abs(dark[y * 96 + x]! - Math.min(65535, least))).toBeLessThanOrEqual(1);
    } // prettier-ignore
    // Equation 1 of the paper: I = J t + A (1 - t), for a scene J with something dark in every patch.
    const light: Colour = [0.85, 0.88, 0.95];
    const scene = createRaster(wholeOf(size));
    const hazy = createRaster(wholeOf(size));
    for (let i = 0; i < 96 * 64; i++)
      for (const [c, plane] of (['r', 'g', 'b'] as const).entries()) {
        const v = (i + Math.floor(i / 96)) % 3 === c ? 0.02 : 0.3 + 0.2 * Math.sin(i / 50);
        scene[plane][i] = v * 65535;
        hazy[plane][i] = (v * 0.5 + light[c]! * 0.5) * 65535;
      }
    const cleared = rendered([layerOf('haze', { amount: 100, light })], hazy, size);
    const error = (picture: Raster): number =>
      picture.g.reduce((sum, v, i) => sum + Math.abs(v - scene.g[i]!), 0) / picture.g.length / 65535;
    expect(error(cleared)).toBeLessThan(error(hazy) * 0.25);
    const found = hazeLight(hazy, 3);
    expect(found.every((v) => v > 0.3)).toBe(true);
  });

  it('noise falls and edges stay; compression narrows the range and keeps detail; glow spreads light and does not make it', () => {
    const random = chance(8);
    const noisy = createRaster(wholeOf(size));
    for (let i = 0; i < 96 * 64; i++) {
      const level = i % 96 < 48 ? 0.3 : 0.7;
      for (const plane of ['r', 'g', 'b'] as const) noisy[plane][i] = (level + (random() - 0.5) * 0.06) * 65535;
    }
    const clean = rendered([layerOf('noiseReduction', { lightness: 60, colour: 80, size: 3 })], noisy, size);
    const deviation = (p: Raster, from: number, to: number): number => {
      const values = Array.from(p.g, (v, i) => [v / 65535, i % 96] as const).filter(([, x]) => x >= from && x < to).map(([v]) => v); // prettier-ignore
      const mean = values.reduce((a, b) => a + b) / values.length;
      return Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length);
    };
    expect(deviation(clean, 8, 40)).toBeLessThan(deviation(noisy, 8, 40) * 0.4);
    expect((clean.g[32 * 96 + 50]! - clean.g[32 * 96 + 45]!) / 65535).toBeGreaterThan(0.36);

    const squeezed = rendered([layerOf('tone', { compression: 100 })], noisy, size);
    const step = (p: Raster): number => p.g.reduce((sum, v, i) => sum + (i % 96 >= 70 ? v : i % 96 < 26 ? -v : 0), 0) / (26 * 64) / 65535;
    expect(step(squeezed)).toBeLessThan(step(noisy) * 0.6);
    expect(deviation(squeezed, 8, 30) / deviation(noisy, 8, 30)).toBeGreaterThan(0.8);

    const star = createRaster(wholeOf(size));
    for (const plane of ['r', 'g', 'b'] as const) star[plane].fill(65535, 32 * 96 + 48, 32 * 96 + 50);
    const spread = rendered([layerOf('glow', { amount: 100, width: 2, mode: 'add', from: 0 })], star, size);
    const light = (p: Raster): number => p.g.reduce((sum, v) => sum + srgbToLinear(v / 65535), 0);
    // What is added is the light itself; where it was white already, more cannot show.
    expect(light(spread) / light(star)).toBeGreaterThan(1.7);
    expect(light(spread) / light(star)).toBeLessThan(2.05);
  });

  it('reaches as far as it says and no farther', () => {
    const scale = { picture: size, full: size };
    for (const { kind, filter } of everyAdjustment) {
      if (!filter) continue;
      const own = { colours: [[0, 0, 0], [1, 1, 1]], lightnessBroad: 60 }; // prettier-ignore
      const settings = { ...(adjustment(kind).defaults as object), amount: 60, fine: 40, radius: 2, compression: 50, ...own };
      const content = {
        kind,
        settings: Object.fromEntries(Object.entries(settings).filter(([key]) => key in (adjustment(kind).defaults as object))),
      } as AdjustmentContent;
      const reach = reachOfFilter(content, scale);
      expect(reach, kind).toBeGreaterThan(0);
      const changed = createRaster(wholeOf(size));
      for (const plane of ['r', 'g', 'b'] as const) changed[plane].set(grey[plane]);
      const [x, y] = [48, 32];
      changed.r[y * 96 + x] = changed.g[y * 96 + x] = changed.b[y * 96 + x] = 65535;
      const layer = layerOf(kind, content.settings as never);
      const [before, after] = [rendered([layer], grey, size), rendered([layer], changed, size)];
      let farthest = 0;
      for (let i = 0; i < 96 * 64; i++)
        if (after.g[i] !== before.g[i]) farthest = Math.max(farthest, Math.abs((i % 96) - x), Math.abs(Math.floor(i / 96) - y));
      expect(farthest, kind).toBeLessThanOrEqual(reach);
      // A lone pixel is an edge, which some of them keep: but none asks for much more than it uses.
      expect(farthest, kind).toBeGreaterThanOrEqual(reach / 3);
    }
  });

  it('a vignette spares shadows and lies the same at every size; grain averages out when it gets small', () => {
    const flat = (s: Size, v: number): Raster => {
      const raster = createRaster(wholeOf(s));
      for (const plane of ['r', 'g', 'b'] as const) raster[plane].fill(v * 65535);
      return raster;
    };
    const full = { width: 960, height: 640 };
    const corner = (v: number, spareShadows: number): number =>
      rendered([layerOf('vignette', { amount: -60, spareShadows })], flat(size, v), full).r[0]! / 65535 / v;
    expect(corner(0.6, 0)).toBeCloseTo(0.4, 1);
    expect(corner(0.05, 100)).toBeGreaterThan(0.97);
    const [small, large] = [
      rendered([layerOf('vignette')], flat(size, 0.5), full),
      rendered([layerOf('vignette')], flat({ width: 192, height: 128 }, 0.5), full),
    ];
    expect(Math.abs(small.r[10 * 96 + 10]! - large.r[20 * 192 + 20]!) / 65535).toBeLessThan(0.01);
    const rough = (p: Raster): number => Math.sqrt(p.r.reduce((sum, v) => sum + (v / 65535 - 0.5) ** 2, 0) / p.r.length);
    const settings = { amount: 50, size: 2 };
    const [near, far] = [
      rendered([layerOf('grain', settings)], flat(size, 0.5), size),
      rendered([layerOf('grain', settings)], flat(size, 0.5), full),
    ];
    expect(rough(near)).toBeGreaterThan(0.02);
    expect(rough(far)).toBeLessThan(rough(near) * 0.4);
    expect(rendered([layerOf('grain', settings)], flat(size, 0.5), size).r).toEqual(near.r);
  });
});

it('the guided filter follows its paper’s equations written out, and finds the same on blocks', () => {
  const size = { width: 61, height: 47 };
  const { r: plane, g: guide } = picture(size);
  const [radius, epsilon] = [3, 0.002];
  // Equations 5, 6 and 8, in windows that end at the border.
  const mean = (of: (i: number) => number, x: number, y: number): number => {
    let [sum, n] = [0, 0];
    for (let v = Math.max(0, y - radius); v <= Math.min(size.height - 1, y + radius); v++)
      for (let u = Math.max(0, x - radius); u <= Math.min(size.width - 1, x + radius); u++)
        [sum, n] = [sum + of(v * size.width + u), n + 1];
    return sum / n;
  };
  const coefficients = Array.from({ length: plane.length }, (_, i) => {
    const [x, y] = [i % size.width, Math.floor(i / size.width)];
    const [I, p] = [(k: number) => guide[k]! / 65535, (k: number) => plane[k]! / 65535];
    const [mi, mp] = [mean(I, x, y), mean(p, x, y)];
    const a = (mean((k) => I(k) * p(k), x, y) - mi * mp) / (mean((k) => I(k) ** 2, x, y) - mi * mi + epsilon);
    return [a, mp - a * mi] as const;
  });
  const [ours] = guidedPlanes([plane], guide, wholeOf(size), radius, epsilon);
  for (const i of [0, 60, 200, 1500, 2000, plane.length - 1]) {
    const [x, y] = [i % size.width, Math.floor(i / size.width)];
    const q = mean((k) => coefficients[k]![0], x, y) * (guide[i]! / 65535) + mean((k) => coefficients[k]![1], x, y);
    expect(Math.abs(ours![i]! / 65535 - q)).toBeLessThan(3e-4);
  }
  // On blocks, and in strips: a smooth picture comes out as it went in, and a part as in the whole.
  for (const { width, height, wide, from } of [
    { width: 240, height: 200, wide: 24, from: 61 },
    { width: 900, height: 700, wide: 5, from: 450 },
  ]) {
    const smooth = new Uint16Array(width * height).map(
      (_, i) => 30000 + 20000 * Math.sin((i % width) / 60) * Math.cos(Math.floor(i / width) / 50),
    );
    const [whole] = guidedPlanes([smooth], smooth, wholeOf({ width, height }), wide, 1e-4) as [Float32Array];
    expect(whole.reduce((sum, v, i) => sum + Math.abs(v - smooth[i]!), 0) / smooth.length / 65535).toBeLessThan(0.004);
    const lower = smooth.slice(from * width);
    const [cut] = guidedPlanes([lower], lower, { x: 0, y: from, width, height: height - from }, wide, 1e-4) as [Float32Array];
    for (let y = from + guidedReach(wide); y < height; y++)
      for (let x = 0; x < width; x += 7) expect(cut[(y - from) * width + x]).toBe(whole[y * width + x]);
  }
});
