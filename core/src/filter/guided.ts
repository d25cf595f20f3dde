/**
 * The guided filter with a colour guide: K. He, J. Sun, X. Tang, "Guided Image Filtering" (IEEE PAMI 35, 2013), equations 19 to 21.
 * In every window the filtered picture is a linear function of the guide, q = a . I + b, as near to the input p as `epsilon` allows;
 * a pixel takes the mean of all windows it is in. All sums are of whole numbers, so that a pixel's result does not depend on the
 * region it was computed in, as long as that reaches twice the radius further.
 */
import { boxSums } from './box.ts';

/** Steps of the guide's channels and, as parts of one of its steps, of the coefficients. */
const GUIDE = 1023;
const COEFFICIENT = 1 << 12;

/**
 * Filters a plane in place.
 * @param plane 0..65535, width * height values
 * @param guide three planes, 0..1
 * @param radius of the square windows, in whole pixels, at least 1
 * @param epsilon how much variance of the guide (0..1 squared) counts as none
 */
export function guidedFilter(
  plane: Uint16Array,
  guide: { readonly r: Float32Array; readonly g: Float32Array; readonly b: Float32Array },
  width: number,
  height: number,
  radius: number,
  epsilon: number,
): void {
  const n = width * height;
  const counts = new Float64Array(n);
  const product = new Float64Array(n);
  const sums = (values: Float64Array): Float64Array => boxSums(values, width, height, radius, counts);
  const sumsOf = (x: Float64Array, y: Float64Array): Float64Array => {
    for (let i = 0; i < n; i++) product[i] = x[i]! * y[i]!;
    return sums(product);
  };
  const whole = (channel: Float32Array): Float64Array => {
    const out = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      const v = channel[i]!;
      out[i] = v > 0 ? (v < 1 ? Math.floor(v * GUIDE + 0.5) : GUIDE) : 0;
    }
    return out;
  };
  const [r, g, b] = [whole(guide.r), whole(guide.g), whole(guide.b)];
  const p = Float64Array.from(plane);
  const [sr, sg, sb, sp] = [sums(r), sums(g), sums(b), sums(p)];
  const [rr, rg, rb, gg, gb, bb] = [sumsOf(r, r), sumsOf(r, g), sumsOf(r, b), sumsOf(g, g), sumsOf(g, b), sumsOf(b, b)];
  const [rp, gp, bp] = [sumsOf(r, p), sumsOf(g, p), sumsOf(b, p)];
  const e = epsilon * GUIDE * GUIDE;
  // The coefficients take the place of the cross sums, the offset that of the input's.
  for (let i = 0; i < n; i++) {
    const share = 1 / counts[i]!;
    const [mr, mg, mb, mp] = [sr[i]! * share, sg[i]! * share, sb[i]! * share, sp[i]! * share];
    const [cr, cg, cb] = [rp[i]! * share - mr * mp, gp[i]! * share - mg * mp, bp[i]! * share - mb * mp];
    // The covariance of the guide plus epsilon on its diagonal, inverted by its cofactors.
    const v00 = rr[i]! * share - mr * mr + e;
    const v01 = rg[i]! * share - mr * mg;
    const v02 = rb[i]! * share - mr * mb;
    const v11 = gg[i]! * share - mg * mg + e;
    const v12 = gb[i]! * share - mg * mb;
    const v22 = bb[i]! * share - mb * mb + e;
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
    rp[i] = Math.round(ar * COEFFICIENT);
    gp[i] = Math.round(ag * COEFFICIENT);
    bp[i] = Math.round(ab * COEFFICIENT);
    sp[i] = Math.round((mp - ar * mr - ag * mg - ab * mb) * 16);
  }
  const [ar, ag, ab, offset] = [sums(rp), sums(gp), sums(bp), sums(sp)];
  for (let i = 0; i < n; i++) {
    const q = (ar[i]! * r[i]! + ag[i]! * g[i]! + ab[i]! * b[i]!) / COEFFICIENT + offset[i]! / 16;
    const v = q / counts[i]! + 0.5;
    plane[i] = v > 0 ? (v < 65535 ? v | 0 : 65535) : 0;
  }
}
