import {
  channelTable,
  gainChroma,
  hueTables,
  moveNear,
  shiftTones,
  throughLut,
  throughTableDefined,
  rotateHues,
  turnOklab,
} from '@umbo/core/adjust';
import { createPlanes, quantise, type Planes } from '@umbo/core/base';
import { between, matrixBetween, spaces, srgb, fromOklab, hueMembership, inLightDefined, toOklab } from '@umbo/core/colour';
import type { CubeLut } from '@umbo/core/format';
import { coverHues } from '@umbo/core/mask';
import { createKernels } from '@umbo/kernels';
import { describe, expect, it } from 'vitest';

const kernels = createKernels();

/** Random colours, and the ones where arithmetic is at its limits: black, white, greys, primaries, what lies outside, no numbers. */
function colours(n: number): Planes {
  const planes = createPlanes(n);
  let state = 12345;
  const random = (): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  for (let i = 0; i < n; i++) for (const plane of [planes.r, planes.g, planes.b]) plane[i] = random();
  const special = [0, 1, 0.5, 1 / 255, 1e-6, 1e-12, -0.2, 1.4, 2.5, Number.NaN, Infinity, -Infinity];
  let at = 0;
  for (const r of special) for (const g of [r, 0, 1]) for (const b of [r, 0, 1]) [planes.r[at], planes.g[at], planes.b[at++]] = [r, g, b];
  return planes;
}
const copy = ({ r, g, b }: Planes): Planes => ({ r: r.slice(), g: g.slice(), b: b.slice() });

/** How many of them are the special ones, at the beginning. */
const SPECIAL = 12 * 9;

/** The largest difference; NaN, which is less than nothing, where either holds it. */
const difference = (a: Float32Array, b: Float32Array): number => a.reduce((worst, v, i) => Math.max(worst, Math.abs(v - b[i]!)), 0);

describe('the kernels are the definition', () => {
  // More than a memory's worth, and not a multiple of four.
  const source = colours(20_003);

  it('turning in OKLab', () => {
    for (const [ca, cb, keep, lift] of [
      [1, 0, 1, 0],
      [-0.5, 0.8, 1, 0],
      [2, 0, 1, 0],
      [0, 0, 0.3, 0.7],
      [0.4, 0.4, 0, 0],
    ] as const) {
      const defined = copy(source);
      const fast = copy(source);
      turnOklab(srgb, defined, 20_003, ca, cb, keep, lift);
      kernels.rotateOklab(srgb, fast, 20_003, ca, cb, keep, lift);
      for (const plane of ['r', 'g', 'b'] as const) {
        const [exact, twin] = [defined[plane].subarray(SPECIAL), fast[plane].subarray(SPECIAL)];
        const steps = (v: number): number => quantise(v, 65535);
        let differ = 0;
        for (let i = 0; i < exact.length; i++) {
          const step = Math.abs(steps(exact[i]!) - steps(twin[i]!));
          expect(step).toBeLessThanOrEqual(3); // of 65535: single floats near black
          if (step > 0) differ++;
        }
        expect(differ / exact.length).toBeLessThan(0.04);
        expect(difference(defined[plane].subarray(0, SPECIAL), fast[plane].subarray(0, SPECIAL))).toBeLessThan(5e-5); // as far out as 2.5
      }
    }
  });

  it('to OKLab and back', () => {
    const [defined, fast] = [copy(source), copy(source)];
    toOklab(srgb, defined, 20_003);
    kernels.toOklab(srgb, fast, 20_003);
    for (const plane of ['r', 'g', 'b'] as const) expect(difference(defined[plane], fast[plane])).toBeLessThan(2e-5);
    fromOklab(srgb, defined, 20_003);
    kernels.fromOklab(srgb, fast, 20_003);
    for (const plane of ['r', 'g', 'b'] as const) {
      expect(difference(defined[plane].subarray(SPECIAL), fast[plane].subarray(SPECIAL))).toBeLessThan(5e-5); // single floats near black
      expect(difference(source[plane].subarray(SPECIAL), fast[plane].subarray(SPECIAL))).toBeLessThan(1e-4);
    }
  });

  it('turning by hue, changing chroma, moving and shifting in OKLab, changing light, tables', () => {
    const n = 20_003;
    const wide = spaces.rec2020;
    const tables = hueTables((hue) => ({ hue: hue / 4, saturation: 30 - hue / 9, lightness: hue < 180 ? 20 : -30 }));
    const matrix = [[1.2, -0.1, 0], [0.05, 0.9, 0.02], [0, -0.2, 1.4]] as const; // prettier-ignore
    const table = channelTable((v) => v ** 0.7);
    const zone = (f: (v: number) => number): Float32Array => Float32Array.from({ length: 1025 }, (_, i) => f(i / 1024));
    const shifts = { l: zone((v) => v / 9), a: zone((v) => 0.1 - v / 8), b: zone((v) => Math.sin(v * 9) / 20) };
    const orange = [0.7, 0.09, 0.13];
    const cases: [string, (p: Planes) => void, (p: Planes) => void, number][] = [
      ['hue', (p) => rotateHues(srgb, p, n, tables), (p) => kernels.rotateHues(srgb, p, n, tables, 20), 2e-3],
      ['chroma', (p) => gainChroma(srgb, p, n, 1.2, -0.7, 0.25), (p) => kernels.gainChroma(srgb, p, n, 1.2, -0.7, 0.25), 1e-4],
      [
        'near a colour',
        (p) => moveNear(srgb, p, n, orange, [0.1, -0.2, -0.1], 0.3, 0.1),
        (p) => kernels.moveNear(srgb, p, n, orange, [0.1, -0.2, -0.1], 0.3, 0.1),
        1e-4,
      ],
      // Where a tone lies between two entries of the table, rounding may take either.
      ['tones', (p) => shiftTones(srgb, p, n, shifts), (p) => kernels.shiftTones(srgb, p, n, shifts), 2e-3],
      ['light', (p) => inLightDefined(srgb, p, n, matrix, 0.01), (p) => kernels.inLight(srgb, p, n, matrix, 0.01), 5e-5],
      [
        'between spaces',
        (p) => between(srgb, wide, p, n, matrixBetween(srgb, wide)),
        (p) => kernels.between(srgb, wide, p, n, matrixBetween(srgb, wide)),
        5e-5,
      ],
      // The tables of two spaces were there before it.
      ['light after that', (p) => inLightDefined(srgb, p, n, matrix, 0), (p) => kernels.inLight(srgb, p, n, matrix, 0), 5e-5],
      ['table', (p) => throughTableDefined(p.g, n, table), (p) => kernels.throughTable(p.g, n, table, 2048), 5e-6],
    ];
    for (const [name, define, accelerated, most] of cases) {
      const [defined, fast] = [copy(source), copy(source)];
      define(defined);
      accelerated(fast);
      for (const plane of ['r', 'g', 'b'] as const)
        expect(difference(defined[plane].subarray(SPECIAL), fast[plane].subarray(SPECIAL)), name).toBeLessThan(most);
      expect(fast.g.some(Number.isNaN), name).toBe(false);
    }
  });

  it('tables of colours, several in turn, up to more than are kept', () => {
    const lut = (size: number, k: number): CubeLut => ({
      title: '',
      size,
      min: [0, -0.1, 0],
      max: [1, 1, 1.2],
      values: Float32Array.from({ length: size ** 3 * 3 }, (_, i) => Math.sin(i * k)),
    });
    const luts = [lut(2, 1), lut(17, 2), lut(65, 3), lut(65, 4), lut(65, 5), lut(33, 6)];
    for (const one of [...luts, ...luts.slice(0, 3)]) {
      const [defined, fast] = [copy(source), copy(source)];
      throughLut(defined, 20_003, one);
      kernels.throughLut(fast, 20_003, one);
      // Single floats on the way to a cell of 1/64.
      for (const plane of ['r', 'g', 'b'] as const) expect(difference(defined[plane], fast[plane])).toBeLessThan(1e-4);
    }
  });

  it('covering hues', () => {
    const range = { from: 330, fadeIn: 20, span: 50, fadeOut: 40 };
    const table = Float32Array.from({ length: 4098 }, (_, i) => hueMembership(range, (i / 4096) * 360));
    for (const [low, rise] of [
      [0, 0],
      [0.02, 50],
    ] as const) {
      const [defined, fast] = [new Float32Array(20_003), new Float32Array(20_003)];
      coverHues(srgb, source, 20_003, table, low, rise, defined);
      kernels.coverHues(srgb, source, 20_003, table, low, rise, fast);
      // Without the fade the hue of a grey is chance; with it, all must agree.
      let far = 0;
      for (let i = 0; i < defined.length; i++) {
        expect(Number.isNaN(fast[i]!)).toBe(false);
        if (Math.abs(defined[i]! - fast[i]!) > 2e-3) far++;
      }
      expect(far).toBeLessThanOrEqual(rise === 0 ? 60 : 0);
    }
  });

  it('a pixel’s result does not depend on its place or its neighbours', () => {
    const whole = copy(source);
    kernels.rotateOklab(srgb, whole, 20_003, 0.6, 0.7, 1, 0);
    for (const from of [1, 2, 3, 5, 16_383]) {
      const part = { r: source.r.slice(from, from + 7), g: source.g.slice(from, from + 7), b: source.b.slice(from, from + 7) };
      kernels.rotateOklab(srgb, part, 7, 0.6, 0.7, 1, 0);
      expect(part.g).toEqual(whole.g.slice(from, from + 7));
    }
  });
});
