/**
 * The least value of every square window, in place: rows, then columns, each by M. van Herk, "A fast algorithm for local minimum and maximum
 * filters on rectangular and octagonal kernels" (Pattern Recognition Letters 13, 1992). Windows end at the border.
 */
export function minimumFilter(plane: Uint16Array, width: number, height: number, radius: number): void {
  if (radius < 1) return;
  const longest = Math.max(width, height);
  const line = new Uint16Array(longest);
  const ahead = new Uint16Array(longest + 2 * radius);
  const back = new Uint16Array(longest + 2 * radius);
  const run = (start: number, step: number, n: number): void => {
    for (let i = 0; i < n; i++) line[i] = plane[start + i * step]!;
    const window = 2 * radius + 1;
    const total = n + 2 * radius;
    const at = (k: number): number => (k < radius || k >= n + radius ? 65535 : line[k - radius]!);
    for (let k = 0; k < total; k++) ahead[k] = k % window === 0 ? at(k) : Math.min(ahead[k - 1]!, at(k));
    for (let k = total - 1; k >= 0; k--) back[k] = k % window === window - 1 || k === total - 1 ? at(k) : Math.min(back[k + 1]!, at(k));
    for (let i = 0; i < n; i++) plane[start + i * step] = Math.min(back[i]!, ahead[i + window - 1]!);
  };
  for (let y = 0; y < height; y++) run(y * width, 1, width);
  for (let x = 0; x < width; x++) run(x, width, height);
}
