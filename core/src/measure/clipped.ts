/** Pixels that had drawing and have lost it: a channel has come to an end at which it was not. */
import type { Planes } from '../base/planes.ts';

/** Half a step of eight bits. */
const END = 0.5 / 255;

/** Whether a channel is at an end, in encoded values of 0..1. */
export const isLow = (v: number): boolean => v <= END;
export const isHigh = (v: number): boolean => v >= 1 - END;

/** Whether a channel of a pixel has come to an end; `before` 0..1. */
export const newlyClipped = (before: number, after: number): boolean =>
  (isHigh(after) && !isHigh(before)) || (isLow(after) && !isLow(before));

/** Shares of the pixels: of any channel, and of each. */
export function clippedShares(before: Planes, after: Planes, n: number): { any: number; r: number; g: number; b: number } {
  const count = { any: 0, r: 0, g: 0, b: 0 };
  for (let i = 0; i < n; i++) {
    let some = false;
    for (const plane of ['r', 'g', 'b'] as const)
      if (newlyClipped(before[plane][i]!, after[plane][i]!)) {
        count[plane]++;
        some = true;
      }
    if (some) count.any++;
  }
  return { any: count.any / n, r: count.r / n, g: count.g / n, b: count.b / n };
}
