/**
 * The guided filter with a colour guide: K. He, J. Sun, X. Tang, "Guided Image Filtering" (IEEE PAMI 35, 2013), equations 19 to 21.
 * In every window the filtered picture is a linear function of the guide, q = a . I + b, as near to the input p as `epsilon` allows;
 * a pixel takes the mean of all windows it is in. All sums are of whole numbers, so that a pixel's result does not depend on the
 * region it was computed in, as long as that reaches twice the radius further.
 *
 * It goes down the picture row by row with running sums: beside the planes themselves it holds a few numbers for every column, and
 * the coefficients of as many rows as a window is high.
 */

/** Steps of the guide's channels and, as parts of one of its steps, of the coefficients. */
const GUIDE = 1023;
const COEFFICIENT = 1 << 12;
const OFFSET = 16;

/** Sums of a window: the guide's channels, the input, the guide's products among themselves, and those with the input. */
const SUMS = 13;
/** Coefficients of a window: one for each channel of the guide, and an offset. */
const TERMS = 4;

interface Guide {
  readonly r: Float32Array;
  readonly g: Float32Array;
  readonly b: Float32Array;
}

/**
 * Filters a plane in place.
 * @param plane 0..65535, width * height values
 * @param guide three planes, 0..1
 * @param radius of the square windows, in whole pixels, at least 1
 * @param epsilon how much variance of the guide (0..1 squared) counts as none
 */
export function guidedFilter(plane: Uint16Array, guide: Guide, width: number, height: number, radius: number, epsilon: number): void {
  const e = epsilon * GUIDE * GUIDE;
  const columns = new Float64Array(width * SUMS);
  const kept = Math.min(height, 2 * radius + 1);
  // The coefficients' size is bounded by the input's range over epsilon: with the smallest they fit 32 bits with their fractions.
  const ring = new Int32Array(kept * width * TERMS);
  const termColumns = new Float64Array(width * TERMS);
  const rowOf = (y: number): number => (y % kept) * width * TERMS;

  for (let y = 0; y < Math.min(radius, height); y++) addRow(columns, plane, guide, y, width, 1);
  // Two fronts: coefficients are found `radius` rows ahead of the rows that are finished with them.
  for (let y = 0; y < height + radius; y++) {
    const done = y - radius;
    if (y < height) {
      if (y + radius < height) addRow(columns, plane, guide, y + radius, width, 1);
      // The row that leaves the window of finished rows makes room for the new one.
      if (y - kept >= 0 && done - radius - 1 >= 0) addTerms(termColumns, ring, rowOf(y - kept), width, -1);
      findTerms(columns, ring, rowOf(y), width, y, height, radius, e);
      addTerms(termColumns, ring, rowOf(y), width, 1);
      if (done >= 0) addRow(columns, plane, guide, done, width, -1);
    } else if (done - radius - 1 >= 0) addTerms(termColumns, ring, rowOf(done - radius - 1), width, -1);
    if (done >= 0) finishRow(termColumns, plane, guide, done, width, height, radius);
  }
}

const wholeOf = (v: number): number => (v > 0 ? (v < 1 ? Math.floor(v * GUIDE + 0.5) : GUIDE) : 0);

/** Adds a row to the sums of the columns, or takes it off. */
function addRow(columns: Float64Array, plane: Uint16Array, guide: Guide, y: number, width: number, sign: 1 | -1): void {
  for (let x = 0, i = y * width, o = 0; x < width; x++, i++, o += SUMS) {
    const [r, g, b] = [sign * wholeOf(guide.r[i]!), sign * wholeOf(guide.g[i]!), sign * wholeOf(guide.b[i]!)];
    const p = plane[i]!;
    columns[o] = columns[o]! + r;
    columns[o + 1] = columns[o + 1]! + g;
    columns[o + 2] = columns[o + 2]! + b;
    columns[o + 3] = columns[o + 3]! + sign * p;
    columns[o + 4] = columns[o + 4]! + sign * r * r;
    columns[o + 5] = columns[o + 5]! + sign * r * g;
    columns[o + 6] = columns[o + 6]! + sign * r * b;
    columns[o + 7] = columns[o + 7]! + sign * g * g;
    columns[o + 8] = columns[o + 8]! + sign * g * b;
    columns[o + 9] = columns[o + 9]! + sign * b * b;
    columns[o + 10] = columns[o + 10]! + r * p;
    columns[o + 11] = columns[o + 11]! + g * p;
    columns[o + 12] = columns[o + 12]! + b * p;
  }
}

/** The sums of the window about each pixel of a row, from the sums of its columns. */
function slide(columns: Float64Array, width: number, radius: number, fields: number, each: (x: number, sums: Float64Array) => void): void {
  const sums = new Float64Array(fields);
  for (let x = 0; x < Math.min(radius, width); x++) for (let k = 0; k < fields; k++) sums[k] = sums[k]! + columns[x * fields + k]!;
  for (let x = 0; x < width; x++) {
    const [entering, leaving] = [(x + radius) * fields, (x - radius - 1) * fields];
    if (x + radius < width) for (let k = 0; k < fields; k++) sums[k] = sums[k]! + columns[entering + k]!;
    if (leaving >= 0) for (let k = 0; k < fields; k++) sums[k] = sums[k]! - columns[leaving + k]!;
    each(x, sums);
  }
}

const countOf = (at: number, length: number, radius: number): number => Math.min(length - 1, at + radius) - Math.max(0, at - radius) + 1;

/** The coefficients of the windows about a row. */
function findTerms(
  columns: Float64Array,
  ring: Int32Array,
  into: number,
  width: number,
  y: number,
  height: number,
  radius: number,
  e: number,
): void {
  const high = countOf(y, height, radius);
  slide(columns, width, radius, SUMS, (x, s) => {
    const share = 1 / (high * countOf(x, width, radius));
    const [mr, mg, mb, mp] = [s[0]! * share, s[1]! * share, s[2]! * share, s[3]! * share];
    const cr = s[10]! * share - mr * mp;
    const cg = s[11]! * share - mg * mp;
    const cb = s[12]! * share - mb * mp;
    // The covariance of the guide plus epsilon on its diagonal, inverted by its cofactors.
    const v00 = s[4]! * share - mr * mr + e;
    const v01 = s[5]! * share - mr * mg;
    const v02 = s[6]! * share - mr * mb;
    const v11 = s[7]! * share - mg * mg + e;
    const v12 = s[8]! * share - mg * mb;
    const v22 = s[9]! * share - mb * mb + e;
    const k00 = v11 * v22 - v12 * v12;
    const k01 = v02 * v12 - v01 * v22;
    const k02 = v01 * v12 - v02 * v11;
    const k11 = v00 * v22 - v02 * v02;
    const k12 = v01 * v02 - v00 * v12;
    const k22 = v00 * v11 - v01 * v01;
    const inverse = 1 / (v00 * k00 + v01 * k01 + v02 * k02);
    const ar = (k00 * cr + k01 * cg + k02 * cb) * inverse;
    const ag = (k01 * cr + k11 * cg + k12 * cb) * inverse;
    const ab = (k02 * cr + k12 * cg + k22 * cb) * inverse;
    const o = into + x * TERMS;
    ring[o] = Math.round(ar * COEFFICIENT);
    ring[o + 1] = Math.round(ag * COEFFICIENT);
    ring[o + 2] = Math.round(ab * COEFFICIENT);
    ring[o + 3] = Math.round((mp - ar * mr - ag * mg - ab * mb) * OFFSET);
  });
}

function addTerms(columns: Float64Array, ring: Int32Array, from: number, width: number, sign: 1 | -1): void {
  for (let i = 0; i < width * TERMS; i++) columns[i] = columns[i]! + sign * ring[from + i]!;
}

function finishRow(
  columns: Float64Array,
  plane: Uint16Array,
  guide: Guide,
  y: number,
  width: number,
  height: number,
  radius: number,
): void {
  const high = countOf(y, height, radius);
  slide(columns, width, radius, TERMS, (x, s) => {
    const i = y * width + x;
    const q = (s[0]! * wholeOf(guide.r[i]!) + s[1]! * wholeOf(guide.g[i]!) + s[2]! * wholeOf(guide.b[i]!)) / COEFFICIENT + s[3]! / OFFSET;
    const v = q / (high * countOf(x, width, radius)) + 0.5;
    plane[i] = v > 0 ? (v < 65535 ? v | 0 : 65535) : 0;
  });
}
