/** Groups, clipping, let through and tone limits: what the published formulas of compositing say, and what must hold for all numbers. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createRaster, noPictures, wholeOf, type Raster } from '@umbo/core/base';
import { blendModes, toneShare, type ToneLimits } from '@umbo/core/blend';
import { srgb, rgbToOklch, type Colour } from '@umbo/core/colour';
import { ALL_TONES, adjustmentLayer, emptyDocument, groupLayer, sourceLayer, type Layer, type UmboDocument } from '@umbo/core/document';
import type { Mask } from '@umbo/core/mask';
import { renderRegion } from '@umbo/core/render';

const size = { width: 40, height: 30 };
const n = size.width * size.height;
const photograph: Raster = createRaster(wholeOf(size));
for (let i = 0; i < n; i++) {
  photograph.r[i] = ((i * 7919) % 1201) * 54;
  photograph.g[i] = ((i * 104729) % 1301) * 50;
  photograph.b[i] = ((i * 1299709) % 1103) * 59;
}
const flat = (colour: Colour): Raster => {
  const raster = createRaster(wholeOf(size));
  (['r', 'g', 'b'] as const).forEach((plane, c) => raster[plane].fill(colour[c]! * 65535));
  return raster;
};

/** All pixels, interleaved, not rounded. */
function render(layers: Layer[], picture: Raster = photograph, more: Partial<UmboDocument> = {}): Float32Array {
  const out = new Float32Array(n * 3);
  renderRegion(
    { ...emptyDocument(size), ...more, layers },
    { picture: size, full: size },
    wholeOf(size),
    picture,
    noPictures,
    (tile, { r, g, b }) => {
      for (let i = 0; i < tile.width * tile.height; i++) {
        const at = (tile.y + Math.floor(i / tile.width)) * size.width + tile.x + (i % tile.width);
        out.set([r[i]!, g[i]!, b[i]!], at * 3);
      }
    },
  );
  return out;
}
const first = (pixels: Float32Array): number[] => [...pixels.subarray(0, 3)];

let made = 0;
function fill(colour: Colour, how: Partial<Layer['how']> = {}, more: Partial<Layer> = {}): Layer {
  const layer = sourceLayer(`f${made++}`, 'fill', 'Fill', size);
  if (layer.what.kind === 'fill') layer.what.settings.colour = colour;
  return { ...layer, ...more, how: { ...layer.how, ...how } };
}
function turn(hue: number, how: Partial<Layer['how']> = {}, more: Partial<Layer> = {}): Layer {
  const layer = adjustmentLayer(`t${made++}`, 'hueSaturation', 'Turn');
  Object.assign(layer.what.settings, { hue, saturation: 30 });
  return { ...layer, ...more, how: { ...layer.how, ...how } };
}
function group(layers: Layer[], apart: boolean, how: Partial<Layer['how']> = {}, where?: Mask): Layer {
  const layer = groupLayer(`g${made++}`, 'Group');
  return { ...layer, what: { kind: 'group', settings: { apart }, layers }, how: { ...layer.how, ...how }, ...(where && { where }) };
}
/** A mask of one strength everywhere: an inverted mask without parts covers nothing, of which strength keeps the rest. */
const evenly = (share: number): Mask => ({
  parts: [{ id: 'b', kind: 'brush', on: true, invert: false, combine: 'add', start: 'empty', strokes: [] }],
  refine: [],
  strength: 1 - share,
  invert: false,
});

const share = fc.double({ min: 0, max: 1, noNaN: true });
const colour = fc.tuple(share, share, share) as fc.Arbitrary<Colour>;
const separable = fc.constantFrom('normal', 'multiply', 'screen', 'overlay', 'darken', 'lighten', 'hard-light', 'difference', 'exclusion');

/** Blend functions of W3C Compositing and Blending Level 1, section 10.1, for one channel. */
const hardLight = (b: number, s: number): number => (s <= 0.5 ? b * 2 * s : b + 2 * s - 1 - b * (2 * s - 1));
const B: Record<string, (b: number, s: number) => number> = {
  normal: (_b, s) => s,
  multiply: (b, s) => b * s,
  screen: (b, s) => b + s - b * s,
  overlay: (b, s) => hardLight(s, b),
  darken: Math.min,
  lighten: Math.max,
  'hard-light': hardLight,
  difference: (b, s) => Math.abs(b - s),
  exclusion: (b, s) => b + s - 2 * b * s,
};
interface Element {
  colour: number;
  alpha: number;
}
/**
 * One element onto a backdrop (sections 5.1 and 9.1.4): the source is mixed with what the mode makes of it and the backdrop,
 * `Cs = (1 - αb) Cs + αb B(Cb, Cs)`, then composited source-over with premultiplied colours, `co = Cs αs + Cb αb (1 - αs)`.
 */
function over(backdrop: Element, source: Element, mode: string): Element {
  const mixed = (1 - backdrop.alpha) * source.colour + backdrop.alpha * B[mode]!(backdrop.colour, source.colour);
  const alpha = source.alpha + backdrop.alpha * (1 - source.alpha);
  const premultiplied = mixed * source.alpha + backdrop.colour * backdrop.alpha * (1 - source.alpha);
  return { colour: alpha > 0 ? premultiplied / alpha : 0, alpha };
}

describe('compositing (W3C Compositing and Blending Level 1)', () => {
  const element = fc.record({ colour, opacity: fc.double({ min: 0.02, max: 1, noNaN: true }), mode: separable });

  it('source-over of the examples of Porter and Duff: half of one colour over another', () => {
    // T. Porter, T. Duff, "Compositing Digital Images" (1984): A over B = A + (1 - alpha A) B, colours premultiplied.
    expect(first(render([fill([1, 0, 0], { opacity: 0.5 })], flat([0, 0, 1]))).map((v) => Math.round(v * 1e4) / 1e4)).toEqual([
      0.5, 0, 0.5,
    ]);
    // 0.5 red, then 0.5 green, both in a group on white: 0.25 red + 0.5 green, and a quarter of the white is seen.
    const both = group([fill([1, 0, 0], { opacity: 0.5 }), fill([0, 1, 0], { opacity: 0.5 })], true);
    expect(first(render([both], flat([1, 1, 1]))).map((v) => Math.round(v * 1e4) / 1e4)).toEqual([0.5, 0.75, 0.25]);
  });

  it('layers one over the other, and groups apart as isolated groups, for any colours, opacities and modes', () => {
    fc.assert(
      fc.property(
        colour,
        fc.array(element, { minLength: 1, maxLength: 4 }),
        fc.array(element, { minLength: 1, maxLength: 4 }),
        element,
        (photo, below, inside, outer) => {
          const toFill = ({ colour: c, opacity, mode }: typeof outer): Layer => fill(c, { opacity, mode });
          const isolated = group(inside.map(toFill), true, { opacity: outer.opacity, mode: outer.mode });
          const ours = first(render([...below.map(toFill), isolated], flat(photo)));
          for (let c = 0; c < 3; c++) {
            let backdrop: Element = { colour: Math.floor(photo[c]! * 65535) / 65535, alpha: 1 };
            for (const { colour: own, opacity, mode } of below) backdrop = over(backdrop, { colour: own[c]!, alpha: opacity }, mode);
            // Section 7.2: an isolated group begins with a backdrop that is fully transparent.
            let apart: Element = { colour: 0, alpha: 0 };
            for (const { colour: own, opacity, mode } of inside) apart = over(apart, { colour: own[c]!, alpha: opacity }, mode);
            const result = over(backdrop, { colour: apart.colour, alpha: apart.alpha * outer.opacity }, outer.mode);
            expect(ours[c]).toBeCloseTo(result.colour, 4);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('groups apart within groups apart are isolated again', () => {
    const inner = group([fill([0.2, 0.4, 0.6], { opacity: 0.5 })], true, { mode: 'multiply', opacity: 0.8 });
    const outer = group([fill([0.9, 0.5, 0.1], { opacity: 0.6 }), inner], true, { mode: 'screen', opacity: 0.7 });
    const ours = first(render([outer], flat([0.3, 0.3, 0.3])));
    [0.2, 0.4, 0.6].forEach((c, i) => {
      const lower: Element = { colour: [0.9, 0.5, 0.1][i]!, alpha: 0.6 };
      const both = over(lower, { colour: c, alpha: 0.5 * 0.8 }, 'multiply');
      expect(ours[i]).toBeCloseTo(over({ colour: 0.3, alpha: 1 }, { colour: both.colour, alpha: both.alpha * 0.7 }, 'screen').colour, 3);
    });
  });

  it('a group through changes nothing by itself: its layers act as if they stood there', () => {
    const inside = [turn(40), fill([0.4, 0.1, 0.2], { mode: 'soft-light', opacity: 0.4 }), turn(-20, { mode: 'color' })];
    expect(render([group(inside, false)])).toEqual(render(inside));
    expect(render([group([group(inside, false)], false)])).toEqual(render(inside));
    // With less than all of it, the change of all its layers together is eased.
    const [before, all, half] = [render([]), render(inside), render([group(inside, false, { opacity: 0.25 })])];
    for (let i = 0; i < half.length; i += 7) expect(half[i]).toBeCloseTo(before[i]! + (all[i]! - before[i]!) * 0.25, 4);
  });

  it('where the mask of a group is 0, not a bit changes; where it is full, it is as without', () => {
    const inside = [turn(70), fill([0.8, 0.1, 0.1], { opacity: 0.5 })];
    for (const apart of [false, true]) {
      expect(render([group(inside, apart, {}, evenly(0))])).toEqual(render([]));
      expect(render([group(inside, apart, {}, evenly(1))])).toEqual(render([group(inside, apart)]));
    }
  });
});

describe('clipping', () => {
  it('lets a layer act only where the layer below it acts', () => {
    const base = turn(0, {}, { where: evenly(0) });
    expect(render([base, fill([1, 0, 0], {}, { clip: true })])).toEqual(render([]));
    const half = first(render([fill([0, 0, 1], {}, { where: evenly(0.5) }), fill([1, 0, 0], {}, { clip: true })], flat([0, 0, 0])));
    // Half of the blue, and then of the red as much as there is base.
    expect(half.map((v) => Math.round(v * 1000) / 1000)).toEqual([0.5, 0, 0.25]);
    // Two in a row are clipped to the same base; one that is switched off takes them along.
    const row = (on: boolean): Layer[] => [
      fill([0, 0, 1], {}, { on, where: evenly(0.5) }),
      fill([1, 0, 0], {}, { clip: true }),
      fill([0, 1, 0], {}, { clip: true }),
    ];
    expect(first(render(row(true), flat([0, 0, 0])))[1]).toBeCloseTo(0.5, 4);
    expect(render(row(false))).toEqual(render([]));
    // The first of a list has nothing to be clipped to.
    expect(render([fill([1, 0, 0], {}, { clip: true })])).toEqual(render([fill([1, 0, 0])]));
  });
});

describe('let through', () => {
  const mode = fc.constantFrom(...blendModes.map(({ id }) => id));

  it('nothing changes nothing, everything is the plain result, to the bit', () => {
    fc.assert(
      fc.property(mode, colour, (id, c) => {
        const plain = fill(c, { mode: id });
        expect(render([fill(c, { mode: id, letThrough: { lightness: 0, hue: 0, chroma: 0 } })])).toEqual(render([]));
        expect(render([fill(c, { mode: id, letThrough: { lightness: 1, hue: 1, chroma: 1 } })])).toEqual(render([plain]));
      }),
      { numRuns: 30 },
    );
  });

  const middle = fc.double({ min: 0.15, max: 0.85, noNaN: true });
  const inGamut = fc.tuple(middle, middle, middle) as fc.Arbitrary<Colour>;
  const distance = (a: number, b: number): number => Math.abs(((a - b + 540) % 360) - 180);

  it('moves each of lightness, hue and chroma its own share of the way, and the others not at all', () => {
    fc.assert(
      fc.property(inGamut, inGamut, share, share, share, (below, own, lightness, hue, chroma) => {
        const from = rgbToOklch(srgb, ...(below.map((v) => Math.floor(v * 65535) / 65535) as Colour));
        const to = rgbToOklch(srgb, ...own);
        fc.pre(from.c > 0.03 && to.c > 0.03 && distance(from.h, to.h) < 120);
        const result = first(render([fill(own, { letThrough: { lightness, hue, chroma } })], flat(below))) as Colour;
        fc.pre(result.every((v) => v > 0.002 && v < 0.998));
        const got = rgbToOklch(srgb, ...result);
        expect(got.l).toBeCloseTo(from.l + (to.l - from.l) * lightness, 3);
        expect(got.c).toBeCloseTo(from.c + (to.c - from.c) * chroma, 3);
        // The hue is between the two, no nearer to its goal than when all of it passes.
        expect(distance(from.h, got.h) + distance(got.h, to.h)).toBeCloseTo(distance(from.h, to.h), 0);
        if (hue === 0) expect(distance(from.h, got.h)).toBeLessThan(0.3);
      }),
      { numRuns: 80 },
    );
  });

  it('is monotone: more of the hue let through never brings it farther from its goal', () => {
    fc.assert(
      fc.property(inGamut, inGamut, (below, own) => {
        const [from, to] = [rgbToOklch(srgb, ...below), rgbToOklch(srgb, ...own)];
        fc.pre(from.c > 0.04 && to.c > 0.04 && distance(from.h, to.h) < 150);
        let last = Infinity;
        for (const hue of [0, 0.2, 0.4, 0.6, 0.8, 1]) {
          const result = first(render([fill(own, { letThrough: { lightness: 0, hue, chroma: 0 } })], flat(below))) as Colour;
          if (result.some((v) => v < 0 || v > 1)) return;
          const left = distance(rgbToOklch(srgb, ...result).h, to.h);
          expect(left).toBeLessThan(last + 0.2);
          last = left;
        }
      }),
      { numRuns: 40 },
    );
  });

  it('keeps the hue that there is when the other colour is a grey', () => {
    const below: Colour = [0.6, 0.4, 0.3];
    const was = rgbToOklch(srgb, ...below);
    const grey = rgbToOklch(
      srgb,
      ...(first(render([fill([0.5, 0.5, 0.5], { letThrough: { lightness: 0, hue: 1, chroma: 0 } })], flat(below))) as Colour),
    );
    expect(distance(grey.h, was.h)).toBeLessThan(0.2);
    expect(grey.c).toBeCloseTo(was.c, 3);
  });
});

describe('tone limits', () => {
  const percent = fc.double({ min: 0, max: 100, noNaN: true });
  const limits: fc.Arbitrary<ToneLimits> = fc.tuple(percent, percent, percent, percent, fc.boolean()).map(([a, b, c, d, smooth]) => {
    const [p, q, r, s] = [a, b, c, d].sort((x, y) => x - y) as [number, number, number, number];
    return { low: [p, q], high: [r, s], smooth };
  });

  it('let all act within, none outside, and rise and fall between without a step back', () => {
    fc.assert(
      fc.property(limits, (range) => {
        const { low, high } = range;
        let last = 0;
        for (let tone = 0; tone <= 100; tone += 0.5) {
          const value = toneShare(range, tone);
          expect(value >= 0 && value <= 1).toBe(true);
          if (tone >= low[1] && tone <= high[0]) expect(value).toBe(1);
          if (tone < low[0] || tone > high[1]) expect(value).toBe(0);
          if (tone < high[0]) expect(value).toBeGreaterThanOrEqual(last - 1e-12);
          else if (tone > high[0] + 0.5) expect(value).toBeLessThanOrEqual(last + 1e-12);
          last = value;
        }
      }),
    );
    // Straight ramps are the line between their ends, smooth ones the cubic 3t² - 2t³.
    const ramp = (smooth: boolean): ToneLimits => ({ low: [20, 60], high: [100, 100], smooth });
    expect([20, 30, 40, 50, 60].map((tone) => toneShare(ramp(false), tone))).toEqual([0, 0.25, 0.5, 0.75, 1]);
    expect([20, 30, 40, 50, 60].map((tone) => toneShare(ramp(true), tone))).toEqual([0, 0.15625, 0.5, 0.84375, 1]);
  });

  it('of all tones change nothing; a layer acts by the luminosity below or by its own, and by both together', () => {
    expect(render([turn(90, { limitsBelow: ALL_TONES, limitsSelf: ALL_TONES })])).toEqual(render([turn(90)]));
    const dark: ToneLimits = { low: [0, 0], high: [30, 50], smooth: false };
    const lum = ([r, g, b]: readonly number[]): number => 0.3 * r! + 0.59 * g! + 0.11 * b!;
    const [before, plain, limited] = [render([]), render([fill([1, 0.9, 0.2])]), render([fill([1, 0.9, 0.2], { limitsBelow: dark })])];
    for (let i = 0; i < n; i++) {
      const pixel = [...before.subarray(i * 3, i * 3 + 3)];
      const weight = toneShare(dark, lum(pixel) * 100);
      for (let c = 0; c < 3; c++) expect(limited[i * 3 + c]).toBeCloseTo(pixel[c]! + (plain[i * 3 + c]! - pixel[c]!) * weight, 2);
    }
    expect(render([fill([1, 0.9, 0.2], { limitsSelf: dark })])).toEqual(before); // its own colour is light
    // Of an adjustment as well, of which nothing else is set.
    const [turned, some] = [render([turn(90)]), render([turn(90, { limitsBelow: dark })])];
    for (let i = 0; i < n; i++) {
      const weight = toneShare(dark, lum([...before.subarray(i * 3, i * 3 + 3)]) * 100);
      for (let c = i * 3; c < i * 3 + 3; c++) expect(some[c]).toBeCloseTo(before[c]! + (turned[c]! - before[c]!) * weight, 2);
    }
    expect(render([fill([0.1, 0.1, 0.1], { limitsSelf: dark, limitsBelow: { low: [0, 0], high: [0, 0], smooth: false } })])).toEqual(
      render([fill([0.1, 0.1, 0.1], { limitsBelow: { low: [0, 0], high: [0, 0], smooth: false } })]),
    );
  });
});

describe('the strength of the whole stack', () => {
  it('eases everything that all layers did', () => {
    const layers = [turn(60), group([fill([0.2, 0.5, 0.9], { mode: 'multiply' })], true)];
    const [before, all] = [render([]), render(layers)];
    expect(render(layers, photograph, { strength: 0 })).toEqual(before);
    expect(render(layers, photograph, { strength: 1 })).toEqual(all);
    const some = render(layers, photograph, { strength: 0.4 });
    for (let i = 0; i < some.length; i += 5) expect(some[i]).toBeCloseTo(before[i]! + (all[i]! - before[i]!) * 0.4, 5);
  });
});
