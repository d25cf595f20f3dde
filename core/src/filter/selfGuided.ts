/**
 * The guided filter with the input as its own guide: K. He, J. Sun, X. Tang, "Guided Image Filtering" (IEEE PAMI 35, 2013), equations 5, 6
 * and 8 with I = p. Smooths what varies less than `epsilon`, and leaves edges. All sums are of whole numbers, so that a pixel's result does
 * not depend on the region it was computed in, as long as that reaches twice the radius further.
 */
import { boxSums } from './box.ts';

const COEFFICIENT = 1 << 14;

/**
 * @param plane 0..65535, width * height values; not changed
 * @param radius of the square windows, in whole pixels, at least 1
 * @param epsilon how much variance (0..1 squared) counts as none
 * @returns the smoothed plane, 0..65535
 */
export function selfGuided(plane: Uint16Array, width: number, height: number, radius: number, epsilon: number): Float32Array {
  return crossGuided(plane, plane, width, height, radius, epsilon);
}

/** The same with another plane as the guide: equations 5, 6 and 8. */
export function crossGuided(
  plane: Uint16Array,
  guide: Uint16Array,
  width: number,
  height: number,
  radius: number,
  epsilon: number,
): Float32Array {
  const n = width * height;
  const counts = new Float64Array(n);
  const sums = (values: Float64Array): Float64Array => boxSums(values, width, height, radius, counts);
  const product = new Float64Array(n);
  const [p, own] = [Float64Array.from(plane), Float64Array.from(guide)];
  const sp = sums(p);
  const si = plane === guide ? sp : sums(own);
  for (let i = 0; i < n; i++) product[i] = own[i]! * own[i]!;
  const sii = sums(product);
  let sip = sii;
  if (plane !== guide) {
    for (let i = 0; i < n; i++) product[i] = p[i]! * own[i]!;
    sip = sums(product);
  }
  const e = epsilon * 65535 * 65535;
  const [a, b] = [new Float64Array(n), new Float64Array(n)];
  for (let i = 0; i < n; i++) {
    const share = 1 / counts[i]!;
    const [mi, mp] = [si[i]! * share, sp[i]! * share];
    const slope = (sip[i]! * share - mi * mp) / (sii[i]! * share - mi * mi + e);
    a[i] = Math.round(slope * COEFFICIENT);
    b[i] = Math.round((mp - slope * mi) * 16);
  }
  const [ma, mb] = [sums(a), sums(b)];
  const out = new Float32Array(n);
  for (let i = 0; i < n; i++) out[i] = ((ma[i]! / COEFFICIENT) * guide[i]! + mb[i]! / 16) / counts[i]!;
  return out;
}
