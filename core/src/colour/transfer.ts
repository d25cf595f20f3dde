/**
 * Transfer curves, exact and as tables.
 *
 * Per pixel the engine uses only + - * / sqrt and table look-ups, so that every JavaScript engine gives the same bytes.
 * The tables reach past 1 because layers are not clamped in between; what lies further out is held at the ends.
 */
import type { CurveNumbers, TransferTables } from '../base/space.ts';

const INTERVALS = 4096;

/** Encoded values of magnitude up to this are decoded; larger ones are held. */
const ENCODED_LIMIT = 2;

/**
 * Decodes one encoded sRGB value to linear light.
 * @param v encoded value, nominal 0..1; negative values mirror positive ones (CSS Color 4, section 10.2)
 * @returns linear light, nominal 0..1
 */
export function srgbToLinear(v: number): number {
  const m = Math.abs(v);
  const linear = m <= 0.04045 ? m / 12.92 : Math.pow((m + 0.055) / 1.055, 2.4);
  return v < 0 ? -linear : linear;
}

/**
 * Encodes one linear-light value as sRGB; the inverse of {@link srgbToLinear}.
 * @param v linear light, nominal 0..1
 * @returns encoded value, nominal 0..1
 */
export function linearToSrgb(v: number): number {
  const m = Math.abs(v);
  const encoded = m <= 0.0031308 ? m * 12.92 : 1.055 * Math.pow(m, 1 / 2.4) - 0.055;
  return v < 0 ? -encoded : encoded;
}

/** A transfer curve both ways; negative values mirror positive ones. */
export interface TransferCurve {
  readonly toLight: (encoded: number) => number;
  readonly fromLight: (light: number) => number;
}

/** A curve by its numbers. */
export const curveOf = ({ exponent, slope, from, offset }: CurveNumbers): TransferCurve => ({
  toLight(v) {
    const m = Math.abs(v);
    return m < from ? v / slope : Math.sign(v) * Math.pow((m + offset) / (1 + offset), exponent);
  },
  fromLight(light) {
    const m = Math.abs(light);
    return m < from / slope ? light * slope : Math.sign(light) * (Math.pow(m, 1 / exponent) * (1 + offset) - offset);
  },
});

function table(limit: number, f: (x: number) => number): Float32Array {
  // One entry past the end, so that interpolation at the limit itself needs no test.
  return new Float32Array(INTERVALS + 2).map((_, i) => f((i / INTERVALS) * limit));
}

/** A transfer curve as tables; see {@link decode} and {@link encode}. */
export function transferTables(toLight: (encoded: number) => number, fromLight: (light: number) => number): TransferTables {
  const rootLimit = Math.sqrt(toLight(ENCODED_LIMIT));
  return {
    decode: table(ENCODED_LIMIT, toLight),
    // Indexed by the square root of light: fine steps where the curve is steep.
    encode: table(rootLimit, (root) => fromLight(root * root)),
    decodeScale: INTERVALS / ENCODED_LIMIT,
    encodeScale: INTERVALS / rootLimit,
  };
}

/** An encoded value to light by table, for pixel loops; within 1e-6. NaN decodes to 0. */
export function decode({ decode: values, decodeScale }: TransferTables, v: number): number {
  let x = (v < 0 ? -v : v) * decodeScale;
  if (!(x < INTERVALS)) x = x >= INTERVALS ? INTERVALS : 0;
  const k = x | 0;
  const low = values[k]!;
  const light = low + (values[k + 1]! - low) * (x - k);
  return v < 0 ? -light : light;
}

/** Light to an encoded value by table, for pixel loops; within 2e-6, next to black of a pure power 1e-4. NaN encodes to 0. */
export function encode({ encode: values, encodeScale }: TransferTables, v: number): number {
  let x = Math.sqrt(v < 0 ? -v : v) * encodeScale;
  if (!(x < INTERVALS)) x = x >= INTERVALS ? INTERVALS : 0;
  const k = x | 0;
  const low = values[k]!;
  const encoded = low + (values[k + 1]! - low) * (x - k);
  return v < 0 ? -encoded : encoded;
}
