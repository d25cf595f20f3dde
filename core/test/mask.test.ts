import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { createRaster, intersect, noPictures, withOverview, expand, wholeOf, type Raster, type Rect } from '@umbo/core/base';
import { srgb, hueMembership, rgbToOklch } from '@umbo/core/colour';
import { gaussianBlur, gaussianReach } from '@umbo/core/filter';
import {
  maskChange,
  maskPartKind,
  maskReach,
  renderMask,
  type BrushPart,
  type HueRangePart,
  type Mask,
  type MaskPart,
  type OutlinePart,
  type Stroke,
} from '@umbo/core/mask';

/** Repeatable noise. */
function noise(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

const size = { width: 150, height: 110 };
const scale = { picture: size, full: size };
const whole = wholeOf(size);
const random = noise(7);
const photograph: Raster = createRaster(whole);
for (let i = 0; i < size.width * size.height; i++) {
  photograph.r[i] = random() * 65535;
  photograph.g[i] = random() * 65535;
  photograph.b[i] = random() * 65535;
}

const mask = (parts: MaskPart[], more: Partial<Mask> = {}): Mask => ({ parts, refine: [], strength: 1, invert: false, ...more });
const stroke = (values: Partial<Stroke> = {}): Stroke => ({
  id: 's',
  size: 30,
  hardness: 0.5,
  flow: 0.4,
  opacity: 1,
  erase: false,
  points: [20, 30, 1, 90, 60, 1, 120, 40, 0.5],
  ...values,
});
const brush = (strokes: Stroke[], values: Partial<BrushPart> = {}): BrushPart => ({
  ...maskPartKind<BrushPart>('brush').create('b', 'add', size),
  strokes,
  ...values,
});
const hue = (values: Partial<HueRangePart> = {}): HueRangePart => ({
  ...maskPartKind<HueRangePart>('hueRange').create('h', 'add', size),
  ...values,
});
const render = (m: Mask, region: Rect = whole): Uint16Array =>
  renderMask(m, scale, region, photograph, withOverview(noPictures, photograph));

describe('feather', () => {
  it('is the Gaussian of libvips', async () => {
    const width = 160;
    const height = 120;
    const plane = new Uint16Array(width * height);
    for (let y = 40; y < 80; y++) for (let x = 50; x < 100; x++) plane[y * width + x] = 65535;
    for (const [sigma, tolerance] of [
      [1.5, 0.004],
      [3.7, 0.004],
      // Three boxes differ from a Gaussian by up to 0.4 % of full scale (Wells 1986); libvips by its own kernel's cut-off.
      [6, 0.012],
      [12, 0.012],
    ] as const) {
      const ours = plane.slice();
      gaussianBlur(ours, width, height, sigma);
      const raw = await sharp(plane, { raw: { width, height, channels: 1 } })
        .toColourspace('grey16')
        .blur({ sigma, precision: 'float', minAmplitude: 0.001 })
        .raw({ depth: 'ushort' })
        .toBuffer();
      const libvips = new Uint16Array(raw.buffer, raw.byteOffset, width * height);
      const definition = convolve(plane, width, height, sigma);
      const worst = (expected: ArrayLike<number>): number =>
        ours.reduce((most, v, i) => Math.max(most, Math.abs(v - expected[i]!)), 0) / 65535;
      expect(worst(definition)).toBeLessThan(tolerance);
      expect(worst(libvips)).toBeLessThan(tolerance);
    }
  });

  it('gives the same bytes for a part as for the whole', () => {
    for (const radius of [3, 9, 25]) {
      const m = mask([hue({ from: 300, span: 90 }), brush([stroke()], { combine: 'common' })], { refine: [{ kind: 'feather', radius }] });
      const all = render(m);
      for (const region of [
        { x: 0, y: 0, width: 60, height: 30 },
        { x: 31, y: 17, width: 70, height: 41 },
        { x: 120, y: 90, width: 30, height: 20 },
      ]) {
        const part = render(m, region);
        for (let y = 0; y < region.height; y++)
          expect([...part.subarray(y * region.width, (y + 1) * region.width)]).toEqual([
            ...all.subarray((region.y + y) * size.width + region.x, (region.y + y) * size.width + region.x + region.width),
          ]);
      }
    }
  });

  it('keeps flat masks flat and knows how far it reaches', () => {
    for (const sigma of [0.5, 4, 4.1, 20]) {
      const flat = new Uint16Array(40 * 30).fill(41234);
      gaussianBlur(flat, 40, 30, sigma);
      expect(new Set(flat)).toEqual(new Set([41234]));
      const width = 4 * gaussianReach(sigma) + 1;
      const point = new Uint16Array(width * width);
      point[(width * width - 1) / 2] = 65535;
      gaussianBlur(point, width, width, sigma);
      for (let i = 0; i < point.length; i++)
        if (point[i]! > 0) {
          const distance = Math.max(Math.abs((i % width) - (width - 1) / 2), Math.abs(Math.floor(i / width) - (width - 1) / 2));
          expect(distance).toBeLessThanOrEqual(gaussianReach(sigma));
        }
    }
  });
});

/** The definition: a direct convolution with a sampled, normalised Gaussian and repeated borders. */
function convolve(plane: Uint16Array, width: number, height: number, sigma: number): Float64Array {
  const reach = Math.ceil(sigma * 5);
  const kernel = Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)));
  const sum = kernel.reduce((a, b) => a + b);
  const clamp = (v: number, last: number): number => Math.max(0, Math.min(last, v));
  const pass = (from: ArrayLike<number>, horizontal: boolean): Float64Array =>
    Float64Array.from({ length: width * height }, (_, i) => {
      const x = i % width;
      const y = Math.floor(i / width);
      let total = 0;
      for (let k = -reach; k <= reach; k++)
        total += kernel[k + reach]! * from[horizontal ? y * width + clamp(x + k, width - 1) : clamp(y + k, height - 1) * width + x]!;
      return total / sum;
    });
  return pass(pass(plane, true), false);
}

describe('hue range', () => {
  it('is a trapezoid on the circle, also across 0 degrees', () => {
    const range = { from: 340, fadeIn: 20, span: 30, fadeOut: 10 };
    for (const [at, expected] of [
      [339, 0],
      [340, 0],
      [350, 0.5],
      [0, 1],
      [30, 1],
      [35, 0.5],
      [41, 0],
      [180, 0],
    ] as const)
      expect(hueMembership(range, at)).toBeCloseTo(expected, 9);
    expect(hueMembership({ from: 10, fadeIn: 0, span: 360, fadeOut: 0 }, 200)).toBe(1);
  });

  it('catches what the hue angle says, and spares greys', () => {
    const part = hue({ from: 20, fadeIn: 10, span: 60, fadeOut: 25, greys: 0 });
    const values = render(mask([part]));
    const spared = render(mask([{ ...part, greys: 0.1 }]));
    for (let i = 0; i < values.length; i += 7) {
      const { h, c } = rgbToOklch(srgb, photograph.r[i]! / 65535, photograph.g[i]! / 65535, photograph.b[i]! / 65535);
      if (c > 0.002) expect(Math.abs(values[i]! / 65535 - hueMembership(part, h))).toBeLessThan(0.015);
      if (c < 0.05) expect(spared[i]).toBe(0);
      if (c > 0.1) expect(spared[i]).toBe(values[i]);
    }
  });
});

describe('brush', () => {
  it('builds up to its opacity, never past it, and never leaves 0..1', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (flow, opacity, hardness) => {
          const points = Array.from({ length: 60 }, (_, i) => [40 + (i % 2) * 20, 50, 1]).flat();
          const values = render(mask([brush([stroke({ flow, opacity, hardness, points })])]));
          const top = Math.max(...values) / 65535;
          expect(top).toBeLessThanOrEqual(opacity + 1e-4);
          if (flow > 0.3) expect(top).toBeGreaterThan(opacity - 0.01);
        },
      ),
      { numRuns: 30 },
    );
  });

  it('adds a dab as 1 - (1 - flow)^n', () => {
    // Points closer than the spacing give one dab; a stroke that returns over itself gives another.
    const at = (points: number[]): number =>
      render(mask([brush([stroke({ flow: 0.3, hardness: 1, size: 40, points })])]))[50 * size.width + 60]! / 65535;
    expect(at([60, 50, 1])).toBeCloseTo(0.3, 3);
    expect(at([60, 50, 1, 65, 50, 1])).toBeCloseTo(1 - 0.7 ** 2, 3);
    expect(at([60, 50, 1, 65, 50, 1, 60, 50, 1])).toBeCloseTo(1 - 0.7 ** 3, 3);
  });

  it('paints as much as the mask that it goes through lets in', () => {
    const through = mask([hue({ from: 20, fadeIn: 60, span: 80, fadeOut: 60 })]);
    const [painted, within, both] = [render(mask([brush([stroke()])])), render(through), render(mask([brush([stroke()], { through })]))];
    let partial = 0;
    for (const [i, value] of both.entries()) {
      expect(Math.abs(value - (painted[i]! * within[i]!) / 65535)).toBeLessThan(1.5);
      if (value > 0 && value < painted[i]!) partial++;
    }
    expect(partial).toBeGreaterThan(100);
  });

  it('erases what was painted, from a full mask too', () => {
    const points = [75, 55, 1];
    const middle = 55 * size.width + 75;
    const hard = { hardness: 1, flow: 1, points };
    expect(render(mask([brush([stroke(hard), stroke({ ...hard, id: 't', erase: true })])]))[middle]).toBe(0);
    const full = render(mask([brush([stroke({ ...hard, erase: true })], { start: 'full' })]));
    expect(full[middle]).toBe(0);
    expect(full[0]).toBe(65535);
  });

  it('agrees between scales', () => {
    const m = mask([brush([stroke({ size: 40, hardness: 0.2 })])], { refine: [{ kind: 'feather', radius: 6 }] });
    const full = render(m);
    const half = { width: size.width / 2, height: size.height / 2 };
    const small = renderMask(m, { picture: half, full: size }, wholeOf(half), createRaster(wholeOf(half)), noPictures);
    let sum = 0;
    for (let y = 0; y < half.height; y++)
      for (let x = 0; x < half.width; x++) {
        const four = [0, 1].flatMap((dy) => [0, 1].map((dx) => full[(2 * y + dy) * size.width + 2 * x + dx]!));
        sum += Math.abs(small[y * half.width + x]! - (four[0]! + four[1]! + four[2]! + four[3]!) / 4);
      }
    expect(sum / (half.width * half.height) / 65535).toBeLessThan(2 / 255);
  });

  it('tells where a change can be seen: nothing differs outside', () => {
    const first = stroke({ points: [20, 20, 1, 40, 30, 1] });
    const longer = { ...first, points: [...first.points, 60, 60, 1] };
    const states = [
      brush([]),
      brush([first]),
      brush([longer]),
      brush([longer, stroke({ id: 'u', points: [120, 80, 1] })]),
      brush([first], { start: 'full' }),
    ];
    for (const before of states)
      for (const after of states) {
        const refine = [{ kind: 'feather' as const, radius: 4 }];
        const [a, b] = [mask([before], { refine }), mask([after], { refine })];
        const changed = maskChange(a, b, scale);
        const [va, vb] = [render(a), render(b)];
        for (let i = 0; i < va.length; i++) {
          const [x, y] = [i % size.width, Math.floor(i / size.width)];
          const inside = x >= changed.x && y >= changed.y && x < changed.x + changed.width && y < changed.y + changed.height;
          if (!inside) expect(va[i]).toBe(vb[i]);
        }
      }
    const step = maskChange(mask([brush([first])]), mask([brush([longer])]), scale);
    expect(step.width * step.height).toBeLessThan(size.width * size.height * 0.6);
  });
});

describe('an outline', () => {
  it('has each corner where it was moved to, and no other elsewhere', () => {
    const kind = maskPartKind<OutlinePart>('outline');
    const part = kind.create('o', 'add', size);
    part.shapes = [
      [1, 2, 3, 4, 5, 6],
      [10, 20, 30, 40, 50, 60, 70, 80],
    ];
    kind.moveHandle!(part, 'Corner 3 of outline 2', 55.04, 66, size);
    expect(part.shapes).toEqual([
      [1, 2, 3, 4, 5, 6],
      [10, 20, 30, 40, 55, 66, 70, 80],
    ]);
    expect(kind.handles!(part, size).find(({ name }) => name === 'Corner 3 of outline 2')).toMatchObject({ x: 55, y: 66 });
  });
});

describe('the algebra of masks', () => {
  const a = hue({ id: 'a', from: 0, span: 100 });
  const b = hue({ id: 'b', from: 60, span: 120 });
  const values = (m: Mask): number[] => [...render(m)].map((v) => v / 65535);
  const close = (x: number[], y: number[]): void => x.forEach((v, i) => expect(Math.abs(v - y[i]!)).toBeLessThan(3e-5));

  it('add, cut and keep common are what they say', () => {
    const [va, vb] = [values(mask([a])), values(mask([b]))];
    const joined = (combine: 'add' | 'cut' | 'common'): number[] => values(mask([a, { ...b, combine }]));
    close(
      joined('add'),
      va.map((v, i) => Math.min(1, v + vb[i]!)),
    );
    close(
      joined('cut'),
      va.map((v, i) => Math.max(0, v - vb[i]!)),
    );
    close(
      joined('common'),
      va.map((v, i) => v * vb[i]!),
    );
  });

  it('add and keep common do not depend on the order', () => {
    close(values(mask([a, b])), values(mask([b, a])));
    close(
      values(mask([a, { ...b, combine: 'common' }])),
      values(
        mask([
          { ...b, combine: 'add' },
          { ...a, combine: 'common' },
        ]),
      ),
    );
  });

  it('inverting twice, a part that is off, and full strength change nothing; strength lets some through everywhere', () => {
    const plain = values(mask([a]));
    close(values(mask([{ ...a, invert: true }], { invert: true })), plain);
    close(values(mask([a, { ...b, on: false }])), plain);
    close(
      values(mask([a], { strength: 0.7 })),
      plain.map((v) => 1 - 0.7 * (1 - v)),
    );
    expect(new Set(render(mask([])))).toEqual(new Set([65535]));
    expect(new Set(render(mask([], { invert: true })))).toEqual(new Set([0]));
  });

  it('reads no farther than it says', () => {
    const m = mask([a], { refine: [{ kind: 'feather', radius: 7 }] });
    const region = { x: 40, y: 40, width: 20, height: 20 };
    const needed = intersect(expand(region, maskReach(m, scale)), whole);
    const cut = createRaster(needed);
    for (const plane of ['r', 'g', 'b'] as const)
      for (let y = 0; y < needed.height; y++)
        cut[plane].set(
          photograph[plane].subarray((needed.y + y) * size.width + needed.x, (needed.y + y) * size.width + needed.x + needed.width),
          y * needed.width,
        );
    expect([...renderMask(m, scale, region, cut, noPictures)]).toEqual([...render(m, region)]);
  });
});
