/** How an alignment is written down: as the place of the second photograph over the first. */
import type { Rect, Size } from '../base/geometry.ts';
import type { Motion } from './motion.ts';

/** Where a photograph lies on another: see the frame source. */
export interface Laid {
  /** How far its middle lies from the other's, in the other's pixels. */
  readonly x: number;
  readonly y: number;
  /** Degrees, clockwise. */
  readonly rotate: number;
  /** Percent of its own size. */
  readonly scale: number;
  /** Perspective: how much nearer, in percent, it is over the other's longer side, across and down; left out: no. */
  readonly leanX?: number;
  readonly leanY?: number;
}

type Place = readonly [number, number];

const rounded = (v: number, digits: number): number => Math.round(v * 10 ** digits) / 10 ** digits;

/**
 * @param motion found between smaller pictures of both
 * @param longer the longer side of the first photograph
 * @param own how many times larger the first photograph is than its picture; `other`: the second than its own
 * @example
 * asFrame({ dx: 6, dy: 0, turn: 0, scale: 1 }, 1, 1).x; // → -6
 */
export function asFrame({ dx, dy, turn, scale, lean }: Motion, own: number, other: number, longer = 0): Laid {
  const size = (scale * other) / own;
  const [cos, sin] = [Math.cos(turn) / size, Math.sin(turn) / size];
  // From the first to the second is the way back of where the second lies on the first.
  return {
    x: rounded(-(cos * dx + sin * dy) * other, 3),
    y: rounded(-(cos * dy - sin * dx) * other, 3),
    rotate: rounded((-turn * 180) / Math.PI, 4),
    scale: rounded(100 / size, 4),
    ...(lean && { leanX: rounded((100 * lean[0] * longer) / own, 4), leanY: rounded((100 * lean[1] * longer) / own, 4) }),
  };
}

/**
 * The largest upright area of the first photograph, but for what its turn takes from the corners, that the second covers too.
 * @returns null when there is none
 */
export function coveredByBoth({ x, y, rotate, scale, leanX = 0, leanY = 0 }: Laid, own: Size, other: Size): Rect | null {
  const [cos, sin] = [Math.cos((rotate * Math.PI) / 180), Math.sin((rotate * Math.PI) / 180)];
  const [w, h] = [(other.width * scale) / 200, (other.height * scale) / 200];
  const [a, b, c, d] = [
    [-w, -h],
    [w, -h],
    [w, h],
    [-w, h],
  ].map(([u, v]) => {
    const [px, py] = [x + cos * u! - sin * v!, y + sin * u! + cos * v!];
    const nearer = 1 - (leanX * px + leanY * py) / (100 * Math.max(own.width, own.height));
    return [own.width / 2 + px / nearer, own.height / 2 + py / nearer];
  }) as unknown as [Place, Place, Place, Place];
  const left = Math.ceil(Math.max(0, a[0], d[0]));
  const top = Math.ceil(Math.max(0, a[1], b[1]));
  const right = Math.floor(Math.min(own.width, b[0], c[0]));
  const bottom = Math.floor(Math.min(own.height, c[1], d[1]));
  return right > left && bottom > top ? { x: left, y: top, width: right - left, height: bottom - top } : null;
}
