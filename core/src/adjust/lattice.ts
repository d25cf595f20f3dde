/** Noise that is the same for a place at every time. */

/** A number, -1..1, that looks like chance and is always the same for a place. */
export function noise(x: number, y: number, channel: number): number {
  let h = Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1) ^ Math.imul(channel + 1, 0x9e3779b1);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 0x7fffffff - 1;
}

/** Noise on a lattice, smooth between its points, along one row of pixels after the other. */
export function latticeRows(channel: number, first: number, step: number, n: number): (y: number) => Float32Array {
  const x0 = Math.floor(first);
  const points = Math.floor(first + (n - 1) * step) - x0 + 2;
  const fill = (line: Float32Array, y: number): void => {
    for (let i = 0; i < points; i++) line[i] = noise(x0 + i, y, channel);
  };
  let at = Number.NaN;
  let [upper, lower] = [new Float32Array(points), new Float32Array(points)];
  const row = new Float32Array(n);
  return (y) => {
    const y0 = Math.floor(y);
    if (y0 !== at) {
      [upper, lower] = [lower, upper];
      if (y0 !== at + 1) fill(upper, y0);
      fill(lower, y0 + 1);
      at = y0;
    }
    const down = y - y0;
    for (let i = 0; i < n; i++) {
      const x = first + i * step - x0;
      const k = x | 0;
      const across = x - k;
      const left = upper[k]! + (lower[k]! - upper[k]!) * down;
      row[i] = left + (upper[k + 1]! + (lower[k + 1]! - upper[k + 1]!) * down - left) * across;
    }
    return row;
  };
}
