/**
 * OKLab and OKLCh: B. Ottosson, "A perceptual color space for image processing" (2020), with the matrices of 2021-01-25.
 * L nominal 0..1; a, b about -0.4..0.4; C 0..0.4; hue in degrees 0..360.
 */
import { decodeSrgb, encodeSrgb } from './transfer.ts';

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

/**
 * Encoded sRGB to OKLab.
 * @param out receives L, a, b at `at`, `at + 1`, `at + 2`
 */
export function srgbToOklab(r: number, g: number, b: number, out: Float64Array, at = 0): void {
  const lr = decodeSrgb(r);
  const lg = decodeSrgb(g);
  const lb = decodeSrgb(b);
  const l = cubeRoot(0.4122214708 * lr + 0.5363325363 * lg + 0.0514459929 * lb);
  const m = cubeRoot(0.2119034982 * lr + 0.6806995451 * lg + 0.1073969566 * lb);
  const s = cubeRoot(0.0883024619 * lr + 0.2817188376 * lg + 0.6299787005 * lb);
  out[at] = 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s;
  out[at + 1] = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s;
  out[at + 2] = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s;
}

/**
 * OKLab to encoded sRGB; colours outside the gamut give values outside 0..1.
 * @param out receives r, g, b at `at`, `at + 1`, `at + 2`
 */
export function oklabToSrgb(L: number, a: number, b: number, out: Float64Array, at = 0): void {
  let l = L + 0.3963377774 * a + 0.2158037573 * b;
  let m = L - 0.1055613458 * a - 0.0638541728 * b;
  let s = L - 0.0894841775 * a - 1.291485548 * b;
  l = l * l * l;
  m = m * m * m;
  s = s * s * s;
  out[at] = encodeSrgb(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s);
  out[at + 1] = encodeSrgb(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s);
  out[at + 2] = encodeSrgb(-0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s);
}

/** Encoded sRGB to OKLCh, for readouts (not for pixel loops: it uses atan2). The hue of a grey is 0. */
export function srgbToOklch(r: number, g: number, b: number): Oklch {
  const lab = new Float64Array(3);
  srgbToOklab(r, g, b, lab);
  const c = Math.hypot(lab[1]!, lab[2]!);
  return { l: lab[0]!, c, h: c < 1e-5 ? 0 : ((Math.atan2(lab[2]!, lab[1]!) * 180) / Math.PI + 360) % 360 };
}
