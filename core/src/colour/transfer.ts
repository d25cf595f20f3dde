/**
 * The sRGB transfer curve, exact and as tables.
 *
 * Per pixel the engine uses only + - * / sqrt and table look-ups, so that every JavaScript engine gives the same bytes.
 * The tables reach past 1 because layers are not clamped in between; what lies further out is held at the ends.
 */
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

const LINEAR_ROOT_LIMIT = Math.sqrt(srgbToLinear(ENCODED_LIMIT));

function table(limit: number, f: (x: number) => number): Float32Array {
  // One entry past the end, so that interpolation at the limit itself needs no test.
  return Float32Array.from({ length: INTERVALS + 2 }, (_, i) => f((i / INTERVALS) * limit));
}

const decodeTable = table(ENCODED_LIMIT, srgbToLinear);
/** Indexed by the square root of linear light: fine steps where the curve is steep. */
const encodeTable = table(LINEAR_ROOT_LIMIT, (root) => linearToSrgb(root * root));

const DECODE_SCALE = INTERVALS / ENCODED_LIMIT;
const ENCODE_SCALE = INTERVALS / LINEAR_ROOT_LIMIT;

/** {@link srgbToLinear} by table, for pixel loops; within 1e-6. NaN decodes to 0. */
export function decodeSrgb(v: number): number {
  let x = (v < 0 ? -v : v) * DECODE_SCALE;
  if (!(x < INTERVALS)) x = x >= INTERVALS ? INTERVALS : 0;
  const k = x | 0;
  const low = decodeTable[k]!;
  const linear = low + (decodeTable[k + 1]! - low) * (x - k);
  return v < 0 ? -linear : linear;
}

/** {@link linearToSrgb} by table, for pixel loops; within 2e-6. NaN encodes to 0. */
export function encodeSrgb(v: number): number {
  let x = Math.sqrt(v < 0 ? -v : v) * ENCODE_SCALE;
  if (!(x < INTERVALS)) x = x >= INTERVALS ? INTERVALS : 0;
  const k = x | 0;
  const low = encodeTable[k]!;
  const encoded = low + (encodeTable[k + 1]! - low) * (x - k);
  return v < 0 ? -encoded : encoded;
}

/** The tables and what a value is multiplied with to become an index, for twins of these functions. */
export const transferTables = { decode: decodeTable, encode: encodeTable, decodeScale: DECODE_SCALE, encodeScale: ENCODE_SCALE } as const;
