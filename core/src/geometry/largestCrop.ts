import type { Rect, Size } from '../base/geometry.ts';

type Point = readonly [number, number];
/** Inside is where a x + b y + c is not below 0. */
type Edge = readonly [number, number, number];

/** The sides of a convex shape whose corners go around either way. */
function edgesOf(corners: readonly Point[]): Edge[] {
  const [mx, my] = [0, 1].map((i) => corners.reduce((sum, point) => sum + point[i as 0 | 1], 0) / corners.length) as [number, number];
  return corners.map(([x0, y0], i) => {
    const [x1, y1] = corners[(i + 1) % corners.length]!;
    const length = Math.hypot(x1 - x0, y1 - y0) || 1;
    const [a, b] = [(y0 - y1) / length, (x1 - x0) / length];
    const c = -(a * x0 + b * y0);
    return a * mx + b * my + c < 0 ? [-a, -b, -c] : [a, b, c];
  });
}

/** By what a rectangle of this shape about a place can be multiplied until it meets a side; below 0 where the place is outside. */
function roomAt(edges: readonly Edge[], x: number, y: number, { width, height }: Size): number {
  let room = Infinity;
  for (const [a, b, c] of edges) room = Math.min(room, (a * x + b * y + c) / ((Math.abs(a) * width + Math.abs(b) * height) / 2));
  return room;
}

/** Steps in which the best middle is looked for, each finer than the one before. */
const STEPS = 40;

const isWhole = (v: number): boolean => Math.abs(v - Math.round(v)) < 1e-6;

/** A rectangle of whole pixels about a place, within that of any numbers, and as near to its ratio. */
function about(x: number, y: number, width: number, height: number): Rect {
  const [left, top] = [x - width / 2, y - height / 2];
  const isThere = [left, top, width, height].every(isWhole);
  // Where it begins between pixels it begins with the next, and is a pixel smaller.
  const share = isThere ? 1 : Math.max(0, 1 - 1 / Math.min(width, height));
  return {
    // Without a zero below zero, which is another in a file.
    x: Math.ceil(left - 1e-6) + 0,
    y: Math.ceil(top - 1e-6) + 0,
    width: Math.max(1, Math.floor(width * share + 1e-6)),
    height: Math.max(1, Math.floor(height * share + 1e-6)),
  };
}

/**
 * The largest rectangle of a ratio within a convex shape.
 * @param corners of the shape, in their order
 * @param ratio any size of that ratio
 * @example
 * largestCrop([[0, 0], [60, 0], [60, 40], [0, 40]], { width: 1, height: 1 }); // → { x: 10, y: 0, width: 40, height: 40 }
 */
export function largestCrop(corners: readonly Point[], ratio: Size): Rect {
  const edges = edgesOf(corners);
  const xs = corners.map(([x]) => x);
  const ys = corners.map(([, y]) => y);
  let [x, y] = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
  let room = roomAt(edges, x, y, ratio);
  // Room is a concave function of the place: steps that only go up end at its top.
  let step = (Math.max(...xs) - Math.min(...xs)) / 4;
  for (let i = 0; i < STEPS; i++, step *= 0.75)
    for (const [dx, dy] of [
      [step, 0],
      [-step, 0],
      [0, step],
      [0, -step],
      [step, step],
      [-step, step],
      [step, -step],
      [-step, -step],
    ] as const) {
      const other = roomAt(edges, x + dx, y + dy, ratio);
      if (other > room + 1e-9) [x, y, room] = [x + dx, y + dy, other];
    }
  const share = Math.max(0, room);
  return about(x, y, ratio.width * share, ratio.height * share);
}

/**
 * A crop that stays within a convex shape: moved as little as need be, and only then made smaller, with its ratio kept.
 * @param corners of the shape, in their order
 */
export function cropWithin(corners: readonly Point[], crop: Rect): Rect {
  const edges = edgesOf(corners);
  let [x, y] = [crop.x + crop.width / 2, crop.y + crop.height / 2];
  if (roomAt(edges, x, y, crop) >= 1 - 1e-9) return crop;
  const largest = largestCrop(corners, crop);
  const share = Math.min(1, largest.width / crop.width, largest.height / crop.height);
  const size = { width: crop.width * share, height: crop.height * share };
  const [tx, ty] = [largest.x + largest.width / 2, largest.y + largest.height / 2];
  // Between where it was and the middle of the largest one, as near to the first as it has room.
  let [low, high] = [0, 1];
  for (let i = 0; i < 40; i++) {
    const way = (low + high) / 2;
    if (roomAt(edges, x + (tx - x) * way, y + (ty - y) * way, size) >= 1) high = way;
    else low = way;
  }
  [x, y] = [x + (tx - x) * high, y + (ty - y) * high];
  return about(x, y, size.width, size.height);
}

/** Whether a rectangle lies within a convex shape. */
export const isWithin = (corners: readonly Point[], { x, y, width, height }: Rect): boolean =>
  roomAt(edgesOf(corners), x + width / 2, y + height / 2, { width, height }) >= 1 - 1e-6;
