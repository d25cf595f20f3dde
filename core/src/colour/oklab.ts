/**
 * OKLab and OKLCh: B. Ottosson, "A perceptual color space for image processing" (2020), with the matrices of 2021-01-25.
 * L nominal 0..1; a, b about -0.4..0.4; C 0..0.4; hue in degrees 0..360.
 */
import type { ColourSpace } from '../base/space.ts';
import { decode, encode } from './transfer.ts';

export interface Oklch {
  l: number;
  c: number;
  h: number;
}

const STEPS = 1024;
const rootTable = Float32Array.from({ length: STEPS + 2 }, (_, i) => Math.pow(i / STEPS, 2 / 3));

/**
 * Cube root for pixel loops: a guess from a table over the square root and one Halley step; relative error below 1e-9.
 * NaN, infinities and magnitudes below 1e-18 give 0.
 */
export function cubeRoot(x: number): number {
  let m = x < 0 ? -x : x;
  if (!(m > 1e-18 && m < Infinity)) return 0;
  // Into the range of the table; 4096 is 16 cubed, 8 is 2 cubed.
  let scale = x < 0 ? -1 : 1;
  for (; m < 1 / 16384; m *= 4096) scale /= 16;
  for (; m >= 1; m /= 8) scale *= 2;
  const s = Math.sqrt(m) * STEPS;
  const k = s | 0;
  let y = rootTable[k]! + (rootTable[k + 1]! - rootTable[k]!) * (s - k);
  const y3 = y * y * y;
  y = (y * (y3 + m + m)) / (y3 + y3 + m);
  return y * scale;
}

/** The cone responses' roots to OKLab, and OKLab's a and b to the roots beside L: the same for every space. */
export const OKLAB = {
  fromRoots: [0.2104542553, 0.793617785, -0.0040720468, 1.9779984951, -2.428592205, 0.4505937099, 0.0259040371, 0.7827717662, -0.808675766],
  toRoots: [0.3963377774, 0.2158037573, -0.1055613458, -0.0638541728, -0.0894841775, -1.291485548],
} as const;
const [LL, LM, LS, AL, AM, AS, BL, BM, BS] = OKLAB.fromRoots;
const [LA, LB, MA, MB, SA, SB] = OKLAB.toRoots;

/**
 * Encoded RGB of a space to OKLab.
 * @param out receives L, a, b at `at`, `at + 1`, `at + 2`
 */
export function rgbToOklab(space: ColourSpace, r: number, g: number, b: number, out: Float64Array, at = 0): void {
  // Neither matrix nor its rows are taken apart: doing so goes through iterators, for every pixel.
  const { tables, toCones } = space;
  const x = toCones[0];
  const y = toCones[1];
  const z = toCones[2];
  const lr = decode(tables, r);
  const lg = decode(tables, g);
  const lb = decode(tables, b);
  const l = cubeRoot(x[0] * lr + x[1] * lg + x[2] * lb);
  const m = cubeRoot(y[0] * lr + y[1] * lg + y[2] * lb);
  const s = cubeRoot(z[0] * lr + z[1] * lg + z[2] * lb);
  out[at] = LL * l + LM * m + LS * s;
  out[at + 1] = AL * l + AM * m + AS * s;
  out[at + 2] = BL * l + BM * m + BS * s;
}

/**
 * OKLab to encoded RGB of a space; colours outside the gamut give values outside 0..1.
 * @param out receives r, g, b at `at`, `at + 1`, `at + 2`
 */
export function oklabToRgb(space: ColourSpace, L: number, a: number, b: number, out: Float64Array, at = 0): void {
  const { tables, fromCones } = space;
  const x = fromCones[0];
  const y = fromCones[1];
  const z = fromCones[2];
  let l = L + LA * a + LB * b;
  let m = L + MA * a + MB * b;
  let s = L + SA * a + SB * b;
  l = l * l * l;
  m = m * m * m;
  s = s * s * s;
  out[at] = encode(tables, x[0] * l + x[1] * m + x[2] * s);
  out[at + 1] = encode(tables, y[0] * l + y[1] * m + y[2] * s);
  out[at + 2] = encode(tables, z[0] * l + z[1] * m + z[2] * s);
}

/**
 * Encoded RGB to OKLCh, for readouts (not for pixel loops: it uses atan2). The hue of a grey is 0.
 * @example
 * const { l, c, h } = rgbToOklch(srgb, 1, 0, 0);
 * [l.toFixed(3), c.toFixed(3), h.toFixed(1)]; // → ['0.628', '0.258', '29.2']
 */
export function rgbToOklch(space: ColourSpace, r: number, g: number, b: number): Oklch {
  const lab = new Float64Array(3);
  rgbToOklab(space, r, g, b, lab);
  const c = Math.hypot(lab[1]!, lab[2]!);
  return { l: lab[0]!, c, h: c < 1e-5 ? 0 : ((Math.atan2(lab[2]!, lab[1]!) * 180) / Math.PI + 360) % 360 };
}
