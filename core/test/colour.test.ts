import Color from 'colorjs.io';
import { converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { multiply, times, type SpaceId } from '@umbo/core/base';
import {
  srgb,
  cubeRoot,
  decode,
  deltaE2000,
  planesBetween,
  encode,
  hslChannel,
  labToLch,
  matrixTo,
  linearToSrgb,
  oklabToRgb,
  rgbToHsl,
  smallestHolding,
  spaceIds,
  spaces,
  colourBetween,
  rgbToLab,
  srgbToLinear,
  rgbToOklab,
  rgbToOklch,
} from '@umbo/core/colour';

/** What our spaces are called in colorjs.io. */
const NAMES = { srgb: 'srgb', 'display-p3': 'p3', 'a98-rgb': 'a98rgb', rec2020: 'rec2020', 'prophoto-rgb': 'prophoto' } as const;

/** A grid over the RGB cube with greys, primaries, black and white in it. */
const grid: [number, number, number][] = [];
for (let r = 0; r <= 8; r++) for (let g = 0; g <= 8; g++) for (let b = 0; b <= 8; b++) grid.push([r / 8, g / 8, b / 8]);

const angle = (a: number, b: number): number => Math.abs(((a - b + 540) % 360) - 180);

describe('conversions agree with culori and colorjs.io', () => {
  it('sRGB transfer curve, exact and by table', () => {
    const toLinear = converter('lrgb');
    for (let i = 0; i <= 1000; i++) {
      const v = i / 1000;
      const expected = toLinear({ mode: 'rgb', r: v, g: v, b: v }).r;
      expect(srgbToLinear(v)).toBeCloseTo(expected, 12);
      expect(linearToSrgb(expected)).toBeCloseTo(v, 12);
      expect(Math.abs(decode(srgb.tables, v) - expected)).toBeLessThan(1e-6);
      expect(Math.abs(encode(srgb.tables, expected) - v)).toBeLessThan(2e-6);
    }
  });

  it('OKLab and OKLCh there and back', () => {
    const toOklab = converter('oklab');
    const toOklch = converter('oklch');
    const lab = new Float64Array(3);
    const back = new Float64Array(3);
    for (const [r, g, b] of grid) {
      rgbToOklab(srgb, r, g, b, lab);
      const expected = toOklab({ mode: 'rgb', r, g, b });
      for (const [i, v] of [expected.l, expected.a, expected.b].entries()) expect(Math.abs(lab[i]! - v)).toBeLessThan(1e-5);
      oklabToRgb(srgb, lab[0]!, lab[1]!, lab[2]!, back);
      for (const [i, v] of [r, g, b].entries()) expect(Math.abs(back[i]! - v)).toBeLessThan(1e-5);
      const lch = toOklch({ mode: 'rgb', r, g, b });
      if (lch.c > 0.01) expect(angle(rgbToOklch(srgb, r, g, b).h, lch.h!)).toBeLessThan(0.05);
    }
  });

  it('HSL there and back', () => {
    for (const [r, g, b] of grid) {
      const { h, s, l } = rgbToHsl(r, g, b);
      const expected = new Color('srgb', [r, g, b]).to('hsl').coords;
      expect(l * 100).toBeCloseTo(expected[2]!, 9);
      if (s > 0) expect(angle(h, expected[0]!)).toBeLessThan(1e-9);
      if (l > 0 && l < 1) expect(s * 100).toBeCloseTo(expected[1]!, 9);
      for (const [n, v] of [
        [0, r],
        [8, g],
        [4, b],
      ] as const)
        expect(hslChannel(h, s, l, n)).toBeCloseTo(v, 12);
    }
  });

  it('CIELAB and LCh under D50', () => {
    for (const [r, g, b] of grid) {
      const lab = rgbToLab(srgb, r, g, b);
      const expected = new Color('srgb', [r, g, b]).to('lab').coords;
      for (const [i, v] of [lab.l, lab.a, lab.b].entries()) expect(Math.abs(v - expected[i]!)).toBeLessThan(0.002);
      const { c, h } = labToLch(lab);
      const lch = new Color('srgb', [r, g, b]).to('lch').coords;
      expect(Math.abs(c - lch[1]!)).toBeLessThan(0.002);
      if (c > 1) expect(angle(h, lch[2]!)).toBeLessThan(0.01);
    }
  });

  const pairs = spaceIds.flatMap((from) => spaceIds.map((to) => [from, to] as const)).filter(([from, to]) => from !== to);
  it.each(pairs)('%s to %s, exact and in pixel loops', (from, to) => {
    const planes = {
      r: Float32Array.from(grid, (c) => c[0]),
      g: Float32Array.from(grid, (c) => c[1]),
      b: Float32Array.from(grid, (c) => c[2]),
    };
    planesBetween(spaces[from], spaces[to], planes, grid.length);
    for (const [i, rgb] of grid.entries()) {
      const expected = new Color(NAMES[from], rgb).to(NAMES[to]).coords;
      const exact = colourBetween(spaces[from], spaces[to], rgb);
      for (const [k, plane] of [planes.r, planes.g, planes.b].entries()) {
        // colorjs.io goes on straight below black where the curve mirrors; on both sides of it they are as near as the published matrices.
        if (expected[k]! > 1e-3) expect(Math.abs(exact[k]! - expected[k]!)).toBeLessThan(1e-5);
        if (expected[k]! > 1e-3 && exact[k]! < 1.9) expect(Math.abs(plane[i]! - exact[k]!)).toBeLessThan(5e-5);
      }
    }
  });

  it.each(spaceIds)('OKLab and CIELAB of %s, there and back', (id) => {
    const [lab, back] = [new Float64Array(3), new Float64Array(3)];
    for (const rgb of grid) {
      rgbToOklab(spaces[id], ...rgb, lab);
      const expected = new Color(NAMES[id], rgb).to('oklab').coords;
      // colorjs.io has the matrices of CSS Color 4, which were reckoned anew from those of the author.
      for (const [i, v] of [...lab].entries()) expect(Math.abs(v - expected[i]!)).toBeLessThan(2e-4);
      oklabToRgb(spaces[id], lab[0]!, lab[1]!, lab[2]!, back);
      // At black a pure power is endlessly steep: there light is compared.
      const { toLight } = spaces[id];
      for (const [i, v] of rgb.entries()) {
        expect(Math.abs(toLight(back[i]!) - toLight(v))).toBeLessThan(5e-6);
        if (v > 0.01) expect(Math.abs(back[i]! - v)).toBeLessThan(1e-5);
      }
      const { l, a, b } = rgbToLab(spaces[id], ...rgb);
      for (const [i, v] of new Color(NAMES[id], rgb).to('lab').coords.entries()) expect(Math.abs([l, a, b][i]! - v)).toBeLessThan(0.02);
    }
  });

  it('red of sRGB in Display P3, as CSS Color 4, section 10.3 gives it', () => {
    // color(display-p3 0.91749 0.20029 0.13856): from memory of the text; colorjs.io above says the same.
    const p3 = colourBetween(srgb, spaces['display-p3'], [1, 0, 0]);
    for (const [i, v] of [0.91749, 0.20029, 0.13856].entries()) expect(p3[i]).toBeCloseTo(v, 4);
  });

  it('the smallest space that holds given primaries', () => {
    const points = (id: SpaceId) => {
      const { white, primaries } = spaces[id];
      return [white, primaries.r, primaries.g, primaries.b] as const;
    };
    for (const id of spaceIds) expect(smallestHolding(points(id))).toBe(id);
    // CIE RGB of 1931 (E, and its monochromatic primaries, from memory) lies outside of all but the widest.
    const e = [1 / 3, 1 / 3] as const;
    expect(smallestHolding([e, [0.7347, 0.2653], [0.2738, 0.7174], [0.1666, 0.0089]])).toBe('prophoto-rgb');
  });
});

it('the table-driven cube root is exact to 1e-7 everywhere, and never NaN', () => {
  fc.assert(
    fc.property(fc.double({ min: 1e-12, max: 8, noNaN: true }), (x) => {
      expect(Math.abs(cubeRoot(x) / Math.cbrt(x) - 1)).toBeLessThan(1e-7);
      expect(cubeRoot(-x)).toBe(-cubeRoot(x));
    }),
    { numRuns: 2000 },
  );
  for (const v of [0, -0, Number.NaN, 1e-30]) expect(cubeRoot(v)).toBe(0);
  expect(decode(srgb.tables, Number.NaN)).toBe(0);
  expect(encode(srgb.tables, Number.NaN)).toBe(0);
});

it('CIEDE2000 gives the 34 published differences', () => {
  // G. Sharma, W. Wu, E. N. Dalal, "The CIEDE2000 color-difference formula: implementation notes, supplementary test data,
  // and mathematical observations", Color Research & Application 30 (2005), table 1. Entered from memory of the table; colorjs.io,
  // which is independent, is asked for the same pairs below.
  const pairs: [number, number, number, number, number, number, number][] = [
    [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425],
    [50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615],
    [50, 2.8361, -74.02, 50, 0, -82.7485, 3.4412],
    [50, -1.3802, -84.2814, 50, 0, -82.7485, 1],
    [50, -1.1848, -84.8006, 50, 0, -82.7485, 1],
    [50, -0.9009, -85.5211, 50, 0, -82.7485, 1],
    [50, 0, 0, 50, -1, 2, 2.3669],
    [50, -1, 2, 50, 0, 0, 2.3669],
    [50, 2.49, -0.001, 50, -2.49, 0.0009, 7.1792],
    [50, 2.49, -0.001, 50, -2.49, 0.001, 7.1792],
    [50, 2.49, -0.001, 50, -2.49, 0.0011, 7.2195],
    [50, 2.49, -0.001, 50, -2.49, 0.0012, 7.2195],
    [50, -0.001, 2.49, 50, 0.0009, -2.49, 4.8045],
    [50, -0.001, 2.49, 50, 0.001, -2.49, 4.8045],
    [50, -0.001, 2.49, 50, 0.0011, -2.49, 4.7461],
    [50, 2.5, 0, 50, 0, -2.5, 4.3065],
    [50, 2.5, 0, 73, 25, -18, 27.1492],
    [50, 2.5, 0, 61, -5, 29, 22.8977],
    [50, 2.5, 0, 56, -27, -3, 31.903],
    [50, 2.5, 0, 58, 24, 15, 19.4535],
    [50, 2.5, 0, 50, 3.1736, 0.5854, 1],
    [50, 2.5, 0, 50, 3.2972, 0, 1],
    [50, 2.5, 0, 50, 1.8634, 0.5757, 1],
    [50, 2.5, 0, 50, 3.2592, 0.335, 1],
    [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
    [63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.263],
    [61.2901, 3.7196, -5.3901, 61.4292, 2.248, -4.962, 1.8731],
    [35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645],
    [22.7233, 20.0904, -46.694, 23.0331, 14.973, -42.5619, 2.0373],
    [36.4612, 47.858, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146],
    [90.8027, -2.0831, 1.441, 91.1528, -1.6435, 0.0447, 1.4441],
    [90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381],
    [6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377],
    [2.0776, 0.0795, -1.135, 0.9033, -0.0636, -0.5514, 0.9082],
  ];
  expect(pairs).toHaveLength(34);
  for (const [l1, a1, b1, l2, a2, b2, difference] of pairs) {
    expect(deltaE2000({ l: l1, a: a1, b: b1 }, { l: l2, a: a2, b: b2 })).toBeCloseTo(difference, 4);
    expect(new Color('lab', [l1, a1, b1]).deltaE(new Color('lab', [l2, a2, b2]), '2000')).toBeCloseTo(difference, 4);
  }
});

it('a space’s definition holds together: its matrices follow from its primaries and white (SMPTE RP 177) and agree with colorjs.io', () => {
  for (const space of Object.values(spaces)) {
    const { white, primaries, toXyz, fromXyz, toXyzD50, toCones, fromCones } = space;
    const rounded = matrixTo(space, [white, primaries.r, primaries.g, primaries.b]);
    expect(rounded.flat()).toEqual([1, 0, 0, 0, 1, 0, 0, 0, 1].map((v) => expect.closeTo(v, 3) as number));
    for (const [there, back] of [
      [toXyz, fromXyz],
      [toCones, fromCones],
    ] as const)
      expect(multiply(there, back).flat()).toEqual([1, 0, 0, 0, 1, 0, 0, 0, 1].map((v) => expect.closeTo(v, 6) as number));
    const place = [0.2, 0.5, 0.9] as const;
    const colour = new Color(NAMES[space.id], place.map(space.fromLight) as [number, number, number]);
    for (const [matrix, to] of [
      [toXyz, space.id === 'prophoto-rgb' ? 'xyz-d50' : 'xyz-d65'],
      [toXyzD50, 'xyz-d50'],
    ] as const)
      expect(times(matrix, place)).toEqual(colour.to(to).coords.map((v) => expect.closeTo(v!, 4) as number));
    // OKLab calls white a white without colour.
    expect(times(toCones, [1, 1, 1])).toEqual([1, 1, 1].map((v) => expect.closeTo(v, 6) as number));
  }
});
