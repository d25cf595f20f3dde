/** Masks that follow a picture's edges: the fast guided filter (He, Sun & Tang 2013; He & Sun 2015), with a guide in colour. */
import { channel, createPlane, times, type Picture, type Plane } from './picture.ts';

/** Means over squares of 2 * radius + 1 pixels, clipped at the borders; the same work for every radius. */
export function boxMean({ width, height, data }: Plane, radius: number): Plane {
  const rows = new Float32Array(width * height);
  const out = createPlane(width, height);
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
      out.data[y * width + x] = sums[x]! / count;
    }
  }
  return out;
}

/**
 * A guide made ready once for many masks: coefficients are found on the small picture, and applied on the large one.
 * @returns what brings a mask of the small picture's size to the edges of the large one
 */
export function guideOf(large: Picture, small: Picture, radius: number, epsilon: number): (mask: Plane) => Plane {
  const colours = [0, 1, 2].map((c) => channel(small, c));
  const means = colours.map((plane) => boxMean(plane, radius).data);
  const { width, height } = small;
  const n = width * height;
  const pairs = [
    [0, 0],
    [0, 1],
    [0, 2],
    [1, 1],
    [1, 2],
    [2, 2],
  ] as const;
  const moments = pairs.map(([a, b]) => boxMean(times(colours[a]!, colours[b]!), radius).data);
  // The inverse of the symmetric matrix of covariances, pixel by pixel.
  const inverse = moments.map(() => new Float32Array(n));
  for (let i = 0; i < n; i++) {
    const [m0, m1, m2] = means.map((plane) => plane[i]!) as [number, number, number];
    const [rr, rg, rb, gg, gb, bb] = moments.map((plane) => plane[i]!) as [number, number, number, number, number, number];
    const a = rr - m0 * m0 + epsilon;
    const b = rg - m0 * m1;
    const c = rb - m0 * m2;
    const d = gg - m1 * m1 + epsilon;
    const e = gb - m1 * m2;
    const f = bb - m2 * m2 + epsilon;
    const [c00, c01, c02] = [d * f - e * e, c * e - b * f, b * e - c * d];
    const k = 1 / (a * c00 + b * c01 + c * c02);
    inverse[0]![i] = c00 * k;
    inverse[1]![i] = c01 * k;
    inverse[2]![i] = c02 * k;
    inverse[3]![i] = (a * f - c * c) * k;
    inverse[4]![i] = (b * c - a * e) * k;
    inverse[5]![i] = (a * d - b * b) * k;
  }
  const [v0, v1, v2, v3, v4, v5] = inverse as [Float32Array, Float32Array, Float32Array, Float32Array, Float32Array, Float32Array];
  return (mask) => {
    const mean = boxMean(mask, radius).data;
    const [xr, xg, xb] = colours.map((plane) => boxMean(times(plane, mask), radius).data) as [Float32Array, Float32Array, Float32Array];
    const lines = [0, 1, 2, 3].map(() => new Float32Array(n));
    for (let i = 0; i < n; i++) {
      const q = mean[i]!;
      const x = xr[i]! - means[0]![i]! * q;
      const y = xg[i]! - means[1]![i]! * q;
      const z = xb[i]! - means[2]![i]! * q;
      const a0 = v0[i]! * x + v1[i]! * y + v2[i]! * z;
      const a1 = v1[i]! * x + v3[i]! * y + v4[i]! * z;
      const a2 = v2[i]! * x + v4[i]! * y + v5[i]! * z;
      lines[0]![i] = a0;
      lines[1]![i] = a1;
      lines[2]![i] = a2;
      lines[3]![i] = q - a0 * means[0]![i]! - a1 * means[1]![i]! - a2 * means[2]![i]!;
    }
    return applyLines(
      lines.map((data) => boxMean({ width, height, data }, radius).data),
      { width, height },
      large,
    );
  };
}

/** The lines of a small picture, between its pixels, on the colours of the large one. */
function applyLines(lines: readonly Float32Array[], { width, height }: { width: number; height: number }, large: Picture): Plane {
  const [r, g, b, k] = lines as [Float32Array, Float32Array, Float32Array, Float32Array];
  const out = createPlane(large.width, large.height);
  const [sx, sy] = [width / large.width, height / large.height];
  for (let y = 0; y < large.height; y++) {
    const v = Math.min(height - 1, Math.max(0, (y + 0.5) * sy - 0.5));
    const y0 = Math.floor(v);
    const dy = v - y0;
    const [top, bottom] = [y0 * width, Math.min(height - 1, y0 + 1) * width];
    for (let x = 0; x < large.width; x++) {
      const u = Math.min(width - 1, Math.max(0, (x + 0.5) * sx - 0.5));
      const x0 = Math.floor(u);
      const dx = u - x0;
      const x1 = x0 + 1 < width ? x0 + 1 : x0;
      const [p, q, s, t] = [(1 - dx) * (1 - dy), dx * (1 - dy), (1 - dx) * dy, dx * dy];
      const [i0, i1, i2, i3] = [top + x0, top + x1, bottom + x0, bottom + x1];
      const i = y * large.width + x;
      const value =
        (r[i0]! * p + r[i1]! * q + r[i2]! * s + r[i3]! * t) * large.data[3 * i]! +
        (g[i0]! * p + g[i1]! * q + g[i2]! * s + g[i3]! * t) * large.data[3 * i + 1]! +
        (b[i0]! * p + b[i1]! * q + b[i2]! * s + b[i3]! * t) * large.data[3 * i + 2]! +
        k[i0]! * p +
        k[i1]! * q +
        k[i2]! * s +
        k[i3]! * t;
      out.data[i] = value < 0 ? 0 : value > 1 ? 1 : value;
    }
  }
  return out;
}
