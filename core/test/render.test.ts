import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { hueSaturation } from '@umbo/core/adjust';
import {
  createPlanes,
  createRaster,
  halveRows,
  levelCount,
  levelSize,
  noPictures,
  resample,
  wholeOf,
  type Raster,
  type Rect,
  type Size,
} from '@umbo/core/base';
import { blendModes } from '@umbo/core/blend';
import { hueMembership, srgb, labToLch, rgbToHsl, rgbToLab, rgbToOklch } from '@umbo/core/colour';
import { adjustmentLayer, emptyDocument, type Layer, type UmboDocument } from '@umbo/core/document';
import { hueCensus, humps } from '@umbo/core/measure';
import { neededArea, renderRegion, writeTile } from '@umbo/core/render';

const size = { width: 300, height: 170 };
const scale = { picture: size, full: size };
const whole = wholeOf(size);
const place = { scale, space: srgb, tile: whole };

/** A colourful picture: hue round the width, lightness down the height, with some grain. */
const photograph: Raster = createRaster(whole);
for (let y = 0; y < size.height; y++)
  for (let x = 0; x < size.width; x++) {
    const i = y * size.width + x;
    const wave = (turn: number): number => 0.5 + 0.45 * Math.sin((2 * Math.PI * x) / size.width + turn);
    const light = y / size.height;
    const grain = ((Math.imul(i, 2654435761) >>> 20) / 4096 - 0.5) * 0.04;
    for (const [plane, turn] of [
      ['r', 0],
      ['g', 2.1],
      ['b', 4.2],
    ] as const)
      photograph[plane][i] = Math.max(0, Math.min(1, wave(turn) * light + grain)) * 65535;
  }

function document(...layers: Layer[]): UmboDocument {
  return { ...emptyDocument(size), layers };
}
function layer(id: string, settings: object, more: Partial<Layer> = {}): Layer {
  const base = adjustmentLayer(id, 'hueSaturation', id);
  Object.assign(base.what.settings, settings);
  return { ...base, ...more };
}
const inBlue: Layer['where'] = {
  parts: [
    { id: 'p', kind: 'hueRange', on: true, invert: false, combine: 'add', from: 220, fadeIn: 20, span: 60, fadeOut: 20, greys: 0.03 },
  ],
  refine: [{ kind: 'feather', radius: 8 }],
  strength: 1,
  invert: false,
};

function render16(doc: UmboDocument, region: Rect = whole): Uint16Array {
  const out = new Uint16Array(region.width * region.height * 3);
  renderRegion(doc, scale, region, photograph, noPictures, (tile, pixels) => writeTile(tile, pixels, [srgb, srgb], region, out));
  return out;
}

describe('rendering', () => {
  const edit = document(
    layer('a', { hue: 60, saturation: 20 }, { where: inBlue }),
    layer('b', { lightness: 10 }, { how: { mode: 'soft-light', opacity: 0.6 } }),
  );

  it('gives the same bytes in parts as in one piece', () => {
    const all = render16(edit);
    for (let y = 0; y < size.height; y += 37) {
      const band = { x: 0, y, width: size.width, height: Math.min(37, size.height - y) };
      expect(
        Buffer.compare(
          Buffer.from(render16(edit, band).buffer),
          Buffer.from(all.slice(y * size.width * 3, (y + band.height) * size.width * 3).buffer),
        ),
      ).toBe(0);
    }
    expect(neededArea(edit, scale, { x: 100, y: 50, width: 10, height: 10 }).x).toBeLessThan(100);
  });

  it('does not touch a single bit where the mask is 0, nor anywhere without a layer that acts', () => {
    const untouched = render16(document());
    for (const neutral of [
      layer('n', {}),
      layer('n', { hue: 90 }, { on: false }),
      layer('n', { hue: 90 }, { how: { mode: 'multiply', opacity: 0 } }),
    ])
      expect(render16(document(neutral))).toEqual(untouched);
    const changed = render16(document(layer('a', { hue: 120 }, { where: { ...inBlue, refine: [] } })));
    let inside = 0;
    for (let i = 0; i < size.width * size.height; i++) {
      const [r, g, b] = [photograph.r[i]!, photograph.g[i]!, photograph.b[i]!];
      const { h, c } = rgbToOklch(srgb, r / 65535, g / 65535, b / 65535);
      if (c > 0.02 && h > 245 && h < 300) inside++;
      else if (c < 0.01 || h < 215 || h > 325) expect([...changed.slice(i * 3, i * 3 + 3)]).toEqual([r, g, b]);
    }
    expect(inside).toBeGreaterThan(1000);
  });

  it('dithers 8 bits only: the mean is the value, no error is over a step and a half, rows differ, and what 8 bits hold stays', () => {
    const area = { x: 0, y: 0, width: 64, height: 64 };
    const [n, steps] = [64 * 64, 100.3];
    const written = (value: number, out: Uint8Array | Uint16Array, dither: boolean): number[] => {
      const planes = { r: new Float32Array(n).fill(value), g: new Float32Array(n).fill(value), b: new Float32Array(n).fill(value) };
      writeTile(area, planes, [srgb, srgb], area, out, dither);
      return [...out];
    };
    const noisy = written(steps / 255, new Uint8Array(n * 3), true);
    expect(noisy.reduce((sum, v) => sum + v, 0) / noisy.length).toBeCloseTo(steps, 1);
    expect(Math.max(...noisy.map((v) => Math.abs(v - 100)))).toBeLessThanOrEqual(2);
    expect(noisy.slice(0, 192)).not.toEqual(noisy.slice(192, 384));
    expect(new Set(written(steps / 255, new Uint8Array(n * 3), false))).toEqual(new Set([100]));
    expect(new Set(written(steps / 255, new Uint16Array(n * 3), true))).toEqual(new Set([Math.round((steps / 255) * 65535)]));
    expect(new Set(written(100 / 255, new Uint8Array(n * 3), true))).toEqual(new Set([100]));
  });

  it('survives extreme numbers and one-pixel pictures', () => {
    const planes = createPlanes(4);
    planes.r.set([Number.NaN, -5, 100, Infinity]);
    for (const model of ['oklch', 'hsl'] as const)
      for (const colourise of [false, true]) {
        hueSaturation.apply!({ ...hueSaturation.defaults, model, colourise, hue: 180, saturation: 100, lightness: -100 }, planes, 4, place);
        // What is no number, or beyond all bounds, has become a colour: further layers go on from it.
        for (const plane of [planes.r, planes.g, planes.b]) for (const v of plane) expect(Number.isFinite(v), `${model} ${v}`).toBe(true);
      }
    const dot = { width: 1, height: 1 };
    const out = new Uint8Array(3);
    const source = createRaster(wholeOf(dot));
    renderRegion({ ...edit, photo: dot }, { picture: dot, full: dot }, wholeOf(dot), source, noPictures, (tile, pixels) =>
      writeTile(tile, pixels, [srgb, srgb], wholeOf(dot), out),
    );
    expect([...out]).toEqual([0, 0, 0]); // black stays black under a turn of the hue
  });
});

describe('hue & saturation', () => {
  const colours = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 0.15, max: 0.85, noNaN: true }))) as fc.Arbitrary<
    [number, number, number]
  >;
  const apply = (rgb: readonly number[], settings: object): [number, number, number] => {
    const planes = { r: Float32Array.of(rgb[0]!), g: Float32Array.of(rgb[1]!), b: Float32Array.of(rgb[2]!) };
    hueSaturation.apply!({ ...hueSaturation.defaults, ...settings }, planes, 1, place);
    return [planes.r[0]!, planes.g[0]!, planes.b[0]!];
  };

  it('in OKLCh turns the hue and leaves lightness and chroma alone', () => {
    fc.assert(
      fc.property(colours, fc.integer({ min: -180, max: 180 }), (rgb, turn) => {
        const before = rgbToOklch(srgb, ...rgb);
        const result = apply(rgb, { hue: turn });
        fc.pre(result.every((v) => v > 0 && v < 1) && before.c > 0.03);
        const after = rgbToOklch(srgb, ...result);
        expect(after.l).toBeCloseTo(before.l, 4);
        expect(after.c).toBeCloseTo(before.c, 4);
        expect(Math.abs(((after.h - before.h - turn + 900) % 360) - 180)).toBeLessThan(0.2);
      }),
    );
  });

  it('in HSL does what CSS Color 4 defines', () => {
    fc.assert(
      fc.property(colours, fc.integer({ min: -180, max: 180 }), fc.integer({ min: -100, max: 0 }), (rgb, turn, saturation) => {
        const before = rgbToHsl(...rgb);
        const after = rgbToHsl(...apply(rgb, { model: 'hsl', hue: turn, saturation }));
        expect(after.l).toBeCloseTo(before.l, 5);
        expect(after.s).toBeCloseTo(before.s * (1 + saturation / 100), 4);
        if (after.s > 0.05) expect(Math.abs(((after.h - before.h - turn + 900) % 360) - 180)).toBeLessThan(0.1);
      }),
    );
  });

  it('takes all colour away at -100, ends at black and white, and colourises to one hue', () => {
    fc.assert(
      fc.property(colours, (rgb) => {
        expect(labToLch(rgbToLab(srgb, ...apply(rgb, { saturation: -100 }))).c).toBeLessThan(0.1);
        for (const v of apply(rgb, { lightness: 100 })) expect(v).toBeCloseTo(1, 4);
        for (const v of apply(rgb, { lightness: -100 })) expect(v).toBeCloseTo(0, 4);
        const tinted = apply(rgb, { colourise: true, colouriseHue: 250, colouriseSaturation: 20 });
        if (tinted.every((v) => v > 0 && v < 1)) expect(rgbToOklch(srgb, ...tinted).h).toBeCloseTo(250, 0);
      }),
    );
  });
});

describe('blend modes', () => {
  // W3C Compositing and Blending Level 1, section 10, in the words of the recommendation, on a grid of backdrops and sources.
  const steps = [0, 0.1, 0.25, 0.3, 0.5, 0.6, 0.75, 0.9, 1];
  const hardLight = (b: number, s: number): number => (s <= 0.5 ? 2 * s * b : b + (2 * s - 1) - b * (2 * s - 1));
  const formulas: Record<string, (b: number, s: number) => number> = {
    normal: (_b, s) => s,
    multiply: (b, s) => b * s,
    screen: (b, s) => b + s - b * s,
    overlay: (b, s) => hardLight(s, b),
    darken: Math.min,
    lighten: Math.max,
    'color-dodge': (b, s) => (b === 0 ? 0 : s === 1 ? 1 : Math.min(1, b / (1 - s))),
    'color-burn': (b, s) => (b === 1 ? 1 : s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
    'hard-light': hardLight,
    'soft-light': (b, s) => {
      const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
      return s <= 0.5 ? b - (1 - 2 * s) * b * (1 - b) : b + (2 * s - 1) * (d - b);
    },
    difference: (b, s) => Math.abs(b - s),
    exclusion: (b, s) => b + s - 2 * b * s,
    // Common practice, no source.
    divide: (b, s) => (s === 0 ? 1 : Math.min(1, b / s)),
    add: (b, s) => Math.min(1, b + s),
    subtract: (b, s) => Math.max(0, b - s),
    'linear-light': (b, s) => Math.max(0, Math.min(1, b + 2 * s - 1)),
  };
  const one = (id: string, b: readonly number[], s: readonly number[]): number[] => {
    const planes = (c: readonly number[]) => ({ r: Float32Array.of(c[0]!), g: Float32Array.of(c[1]!), b: Float32Array.of(c[2]!) });
    const own = planes(s);
    blendModes.find((mode) => mode.id === id)!.apply(planes(b), own, 1);
    return [own.r[0]!, own.g[0]!, own.b[0]!];
  };

  it('separable modes are the published formulas', () => {
    for (const [id, formula] of Object.entries(formulas))
      for (const b of steps)
        for (const s of steps) expect(one(id, [b, b, b], [s, s, s])[0], `${id} ${b} ${s}`).toBeCloseTo(formula(b, s), 5);
  });

  it('non-separable modes keep the luminosity and saturation that they promise', () => {
    const sat = (c: readonly number[]): number => Math.max(...c) - Math.min(...c);
    const lum = (c: readonly number[]): number => 0.3 * c[0]! + 0.59 * c[1]! + 0.11 * c[2]!;
    for (const b of [
      [0.2, 0.5, 0.7],
      [0.9, 0.1, 0.3],
      [0.5, 0.5, 0.5],
    ])
      for (const s of [
        [0.8, 0.3, 0.1],
        [0.1, 0.1, 0.9],
        [0.3, 0.3, 0.3],
      ]) {
        for (const id of ['hue', 'saturation', 'color']) expect(lum(one(id, b, s)), id).toBeCloseTo(lum(b), 5);
        expect(lum(one('luminosity', b, s))).toBeCloseTo(lum(s), 5);
        // Sat of section 10.2; what had to be brought back into the cube has lost some of it.
        const keeps = { hue: sat(s) > 0 ? sat(b) : 0, saturation: sat(b) > 0 ? sat(s) : 0, color: sat(s), luminosity: sat(b) };
        for (const [id, promised] of Object.entries(keeps)) {
          const result = one(id, b, s);
          const isClipped = result.some((v) => v < 1e-6 || v > 1 - 1e-6);
          if (isClipped) expect(sat(result), id).toBeLessThan(promised + 1e-5);
          else expect(sat(result), id).toBeCloseTo(promised, 5);
        }
      }
    expect(one('color', [0.5, 0.5, 0.5], [0.3, 0.3, 0.3])[0]).toBeCloseTo(0.5, 5);
    expect(Object.keys(formulas).length + 4).toBe(blendModes.length);
  });

  it('all modes stay in 0..1 for anything that comes in, and divide by white changes nothing', () => {
    for (const { id } of blendModes.filter((mode) => mode.id !== 'normal'))
      for (const odd of [Number.NaN, -1, 2, Infinity])
        for (const v of one(id, [odd, 0, 1], [0.5, odd, 0])) expect(v >= 0 && v <= 1, id).toBe(true);
    expect(one('divide', [0.1, 0.5, 1], [1, 1, 1]).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([0.1, 0.5, 1]);
    expect(one('divide', [0.1, 0.4, 1], [0.5, 0.5, 0.5])[1]).toBeCloseTo(0.8, 6);
  });
});

describe('resampling', () => {
  const rows = new Uint16Array(size.width * size.height * 3);
  for (let i = 0; i < size.width * size.height; i++) rows.set([photograph.r[i]!, photograph.g[i]!, photograph.b[i]!], i * 3);
  const reference = async (to: Size, kernel: 'lanczos3' | 'nearest'): Promise<Uint16Array> => {
    const raw = await sharp(rows, { raw: { ...size, channels: 3 } })
      .toColourspace('rgb16')
      .resize(to.width, to.height, { kernel, fit: 'fill' })
      .raw({ depth: 'ushort' })
      .toBuffer();
    return new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2);
  };
  const difference = (ours: ArrayLike<number>, theirs: ArrayLike<number>): { mean: number; worst: number } => {
    let sum = 0;
    let worst = 0;
    for (let i = 0; i < ours.length; i++) {
      const d = Math.abs(ours[i]! - theirs[i]!) / 65535;
      sum += d;
      worst = Math.max(worst, d);
    }
    return { mean: sum / ours.length, worst };
  };

  it('Lanczos is the one of libvips', async () => {
    for (const to of [
      { width: 220, height: 125 },
      { width: 161, height: 91 },
    ]) {
      const out = createRaster(wholeOf(to));
      resample(photograph, size, to, wholeOf(to), out);
      const ours = Array.from({ length: to.width * to.height * 3 }, (_, i) => out[(['r', 'g', 'b'] as const)[i % 3]!][Math.floor(i / 3)]!);
      const { mean, worst } = difference(ours, await reference(to, 'lanczos3'));
      expect(mean).toBeLessThan(0.5 / 255);
      expect(worst).toBeLessThan(4 / 255); // libvips rounds its coefficients and its positions
    }
  });

  it('a part is resampled as it is in the whole', () => {
    const to = { width: 200, height: 113 };
    const all = createRaster(wholeOf(to));
    resample(photograph, size, to, wholeOf(to), all);
    const area = { x: 31, y: 22, width: 90, height: 40 };
    const part = createRaster(area);
    resample(photograph, size, to, area, part);
    for (let y = 0; y < area.height; y++)
      expect(part.g.subarray(y * area.width, (y + 1) * area.width)).toEqual(
        all.g.subarray((area.y + y) * to.width + area.x, (area.y + y) * to.width + area.x + area.width),
      );
  });

  it('halving is the mean of four pixels, as libvips shrinks', async () => {
    const ours = halveRows(rows, size.width);
    const theirs = await sharp(rows, { raw: { ...size, channels: 3 } })
      .toColourspace('rgb16')
      .resize(150, 85, { kernel: 'linear' as never, fit: 'fill' })
      .raw({ depth: 'ushort' })
      .toBuffer();
    expect(difference(ours, new Uint16Array(theirs.buffer, theirs.byteOffset, theirs.length / 2)).mean).toBeLessThan(1 / 255);
    for (const [x, y] of [
      [0, 0],
      [77, 41],
      [149, 84],
    ] as const)
      for (let c = 0; c < 3; c++) {
        const at = (dx: number, dy: number): number => rows[((2 * y + dy) * size.width + 2 * x + dx) * 3 + c]!;
        expect(ours[(y * 150 + x) * 3 + c]).toBe(Math.floor((at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1) + 2) / 4));
      }
  });

  it('levels end at 512 pixels and odd sizes keep their last row', () => {
    expect(levelCount({ width: 512, height: 300 })).toBe(1);
    expect(levelCount({ width: 6000, height: 4000 })).toBe(5);
    expect(levelSize({ width: 1601, height: 3 }, 1)).toEqual({ width: 801, height: 2 });
    expect([...halveRows(Uint16Array.of(1, 2, 3, 5, 6, 7, 9, 9, 9), 3)]).toEqual([3, 4, 5, 9, 9, 9]);
  });
});

it('the census counts colour where it is and ignores greys', () => {
  const raster = createRaster({ x: 0, y: 0, width: 4, height: 1 });
  raster.r.set([65535, 0, 30000, 50000]);
  raster.b.set([0, 65535, 30000, 50000]);
  raster.g.set([0, 0, 30000, 50000]);
  const bins = hueCensus(srgb, raster);
  const bin = (rgb: [number, number, number]): number => bins[Math.floor(rgbToOklch(srgb, ...rgb).h / 2)]!;
  expect(bin([1, 0, 0]) + bin([0, 0, 1])).toBeCloseTo(1, 5);
  expect(bin([0, 0, 1])).toBeGreaterThan(bin([1, 0, 0])); // sRGB blue has the larger OKLCh chroma
});

it('a census has the humps it was made of, whatever side of 0° they lie on, with their shares and hue words', () => {
  // Sums of bell curves are the test's own; the hue words are those nearest in OKLCh to the purest sRGB colours (CSS Color 4).
  const bell = (hue: number, sigma: number) => (i: number) =>
    Math.exp(-(((((i + 0.5) * 2 - hue + 540) % 360) - 180) ** 2) / (2 * sigma * sigma)) / sigma;
  const made = (...parts: (readonly [number, number, number])[]): Float32Array => {
    const bins = Float32Array.from({ length: 180 }, (_, i) =>
      parts.reduce((sum, [hue, sigma, share]) => sum + share * bell(hue, sigma)(i), 0),
    );
    const all = bins.reduce((sum, v) => sum + v, 0);
    return bins.map((v) => v / all);
  };
  const found = humps(made([25, 8, 0.6], [358, 6, 0.02], [250, 12, 0.3], [110, 5, 0.1]));
  expect(found.map(({ name }) => name)).toEqual(['red', 'blue', 'yellow']);
  for (const [i, [hue, share]] of [
    [25, 0.62],
    [250, 0.3],
    [110, 0.1],
  ].entries()) {
    expect(Math.abs(found[i]!.hue - hue!), found[i]!.name).toBeLessThan(4);
    expect(Math.abs(found[i]!.share - share!), found[i]!.name).toBeLessThan(0.03);
  }
  // What is in the middle of a hump counts fully, what is in another one not at all.
  expect(hueMembership(found[0]!, 25)).toBe(1);
  expect(hueMembership(found[0]!, 250) + hueMembership(found[1]!, 25)).toBe(0);
  const [across, ...others] = humps(made([2, 10, 1]));
  expect([others.length, Math.min(across!.hue, 360 - across!.hue) < 5]).toEqual([0, true]);
  expect(humps(new Float32Array(180))).toEqual([]);
});
