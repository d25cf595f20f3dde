/**
 * The fast guided filter with a colour guide: K. He, J. Sun, "Fast Guided Filter" (arXiv 1505.00996, 2015). Its lines are found on a small
 * picture, and hold for the large one: sampled between the small one's pixels, they turn the large one's own colours into the mask.
 */

/** Means over squares of 2 * radius + 1 pixels, clipped at the borders; the same work for every radius. */
export function boxMean(data: Float32Array, width: number, height: number, radius: number): Float32Array {
  const rows = new Float32Array(width * height);
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    let sum = 0;
    const row = y * width;
    for (let x = 0; x < Math.min(radius, width); x++) sum += data[row + x]!;
    for (let x = 0; x < width; x++) {
      if (x + radius < width) sum += data[row + x + radius]!;
      if (x - radius - 1 >= 0) sum -= data[row + x - radius - 1]!;
      rows[row + x] = sum / (Math.min(width - 1, x + radius) - Math.max(0, x - radius) + 1);
    }
  }
  const sums = new Float64Array(width);
  for (let y = 0; y < Math.min(radius, height); y++) for (let x = 0; x < width; x++) sums[x] = sums[x]! + rows[y * width + x]!;
  for (let y = 0; y < height; y++) {
    const count = Math.min(height - 1, y + radius) - Math.max(0, y - radius) + 1;
    for (let x = 0; x < width; x++) {
      if (y + radius < height) sums[x] = sums[x]! + rows[(y + radius) * width + x]!;
      if (y - radius - 1 >= 0) sums[x] = sums[x]! - rows[(y - radius - 1) * width + x]!;
      out[y * width + x] = sums[x]! / count;
    }
  }
  return out;
}

const product = (a: Float32Array, b: Float32Array): Float32Array => {
  const out = new Float32Array(a.length);
  for (let i = 0; i < out.length; i++) out[i] = a[i]! * b[i]!;
  return out;
};

/** Planes a, b, c, d of a line at each pixel: the mask is a * red + b * green + c * blue + d. */
export type GuideLines = readonly [Float32Array, Float32Array, Float32Array, Float32Array];

/**
 * A guide made ready once for many masks.
 * @param colours three planes of the small picture, 0..1
 * @param radius of the square windows, in its pixels
 * @param epsilon how much variance of the guide (0..1 squared) counts as none
 * @returns what makes lines of a mask of the small picture's size
 */
export function guideLines(
  colours: readonly [Float32Array, Float32Array, Float32Array],
  width: number,
  height: number,
  radius: number,
  epsilon: number,
): (mask: Float32Array) => GuideLines {
  const mean = (plane: Float32Array): Float32Array => boxMean(plane, width, height, radius);
  const [red, green, blue] = colours;
  const [mr, mg, mb] = [mean(red), mean(green), mean(blue)];
  const n = width * height;
  const [v0, v1, v2] = [mean(product(red, red)), mean(product(red, green)), mean(product(red, blue))];
  const [v3, v4, v5] = [mean(product(green, green)), mean(product(green, blue)), mean(product(blue, blue))];
  // In place, pixel by pixel: the inverse of the symmetric matrix of covariances.
  for (let i = 0; i < n; i++) {
    const a = v0[i]! - mr[i]! * mr[i]! + epsilon;
    const b = v1[i]! - mr[i]! * mg[i]!;
    const c = v2[i]! - mr[i]! * mb[i]!;
    const d = v3[i]! - mg[i]! * mg[i]! + epsilon;
    const e = v4[i]! - mg[i]! * mb[i]!;
    const f = v5[i]! - mb[i]! * mb[i]! + epsilon;
    const c00 = d * f - e * e;
    const c01 = c * e - b * f;
    const c02 = b * e - c * d;
    const k = 1 / (a * c00 + b * c01 + c * c02);
    v0[i] = c00 * k;
    v1[i] = c01 * k;
    v2[i] = c02 * k;
    v3[i] = (a * f - c * c) * k;
    v4[i] = (b * c - a * e) * k;
    v5[i] = (a * d - b * b) * k;
  }
  return (mask) => {
    const level = mean(mask);
    // In place: covariances with the mask, then the lines' slopes.
    const [xr, xg, xb] = [mean(product(red, mask)), mean(product(green, mask)), mean(product(blue, mask))];
    for (let i = 0; i < n; i++) {
      const q = level[i]!;
      const x = xr[i]! - mr[i]! * q;
      const y = xg[i]! - mg[i]! * q;
      const z = xb[i]! - mb[i]! * q;
      const a = v0[i]! * x + v1[i]! * y + v2[i]! * z;
      const b = v1[i]! * x + v3[i]! * y + v4[i]! * z;
      const c = v2[i]! * x + v4[i]! * y + v5[i]! * z;
      level[i] = q - a * mr[i]! - b * mg[i]! - c * mb[i]!;
      xr[i] = a;
      xg[i] = b;
      xb[i] = c;
    }
    return [mean(xr), mean(xg), mean(xb), mean(level)];
  };
}
