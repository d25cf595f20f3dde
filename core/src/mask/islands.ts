/** Connected parts of a mask. */
import type { Rect } from '../base/geometry.ts';

/**
 * Numbers the connected parts of the pixels above a level.
 * @param level pixels above it belong to a part
 * @param diagonal whether pixels that touch at a corner are connected
 * @returns for each pixel the number of its part (0: none), and for each number the box that holds the part
 */
export function islands(
  plane: Uint16Array,
  width: number,
  height: number,
  level: number,
  diagonal: boolean,
): { labels: Int32Array; boxes: Rect[]; sizes: number[] } {
  const labels = new Int32Array(plane.length);
  const parent = [0];
  const find = (a: number): number => {
    while (parent[a] !== a) a = parent[a] = parent[parent[a]!]!;
    return a;
  };
  const join = (a: number, b: number): number => {
    const [x, y] = [find(a), find(b)];
    const low = Math.min(x, y);
    parent[Math.max(x, y)] = low;
    return low;
  };
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (plane[i]! <= level) continue;
      let label = x > 0 ? labels[i - 1]! : 0;
      if (y > 0) {
        const above = labels[i - width]!;
        if (above) label = label && label !== above ? join(label, above) : above;
        if (diagonal) {
          const left = x > 0 ? labels[i - width - 1]! : 0;
          const right = x < width - 1 ? labels[i - width + 1]! : 0;
          if (left) label = label && label !== left ? join(label, left) : left;
          if (right) label = label && label !== right ? join(label, right) : right;
        }
      }
      if (!label) parent.push((label = parent.length));
      labels[i] = label;
    }
  const numbers = new Int32Array(parent.length);
  const [x0, y0, x1, y1, sizes]: number[][] = [[], [], [], [], []];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (!labels[i]) continue;
      const root = find(labels[i]!);
      let n = numbers[root]!;
      if (!n) {
        numbers[root] = n = sizes!.push(0);
        x0!.push(x);
        y0!.push(y);
        x1!.push(x);
        y1!.push(y);
      }
      labels[i] = n;
      if (x < x0![n - 1]!) x0![n - 1] = x;
      if (x > x1![n - 1]!) x1![n - 1] = x;
      if (y > y1![n - 1]!) y1![n - 1] = y;
      sizes![n - 1]!++;
    }
  const boxes = sizes!.map((_, n) => ({ x: x0![n]!, y: y0![n]!, width: x1![n]! - x0![n]! + 1, height: y1![n]! - y0![n]! + 1 }));
  return { labels, boxes, sizes: sizes! };
}
