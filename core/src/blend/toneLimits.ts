import { lumOf } from '../colour/luminosity.ts';
import type { Planes } from '../base/planes.ts';

/** A soft range of luminosity, in percent: nothing below `low[0]`, all from `low[1]` to `high[0]`, nothing above `high[1]`. */
export interface ToneLimits {
  low: [number, number];
  high: [number, number];
  /** Whether the ramps fall off smoothly or straight. */
  smooth: boolean;
}

/** How much of a layer the limits let act at a luminosity. @param tone percent, 0..100 @returns 0..1 */
export function toneShare({ low, high, smooth }: ToneLimits, tone: number): number {
  const rise = tone >= low[1] ? 1 : tone <= low[0] ? 0 : (tone - low[0]) / (low[1] - low[0]);
  const fall = tone <= high[0] ? 1 : tone >= high[1] ? 0 : (high[1] - tone) / (high[1] - high[0]);
  const share = Math.min(rise, fall);
  return smooth ? share * share * (3 - 2 * share) : share;
}

const STEPS = 1024;
const tables = new WeakMap<ToneLimits, Float32Array>();

/**
 * Multiplies weights by what the limits let act, by the luminosity of the pixels: Lum of W3C Compositing and Blending Level 1
 * (0.3 R + 0.59 G + 0.11 B), held within 0..1.
 * @param where the places of the pixels' weights; null when they are the first `n`
 */
export function limitTones(limits: ToneLimits, { r, g, b }: Planes, n: number, weight: Float32Array, where: Int32Array | null): void {
  let table = tables.get(limits);
  if (!table)
    tables.set(limits, (table = Float32Array.from({ length: STEPS + 2 }, (_, i) => toneShare(limits, (Math.min(i, STEPS) / STEPS) * 100))));
  for (let i = 0; i < n; i++) {
    const l = lumOf(r[i]!, g[i]!, b[i]!) * STEPS;
    const x = l > 0 ? (l < STEPS ? l : STEPS) : 0;
    const k = x | 0;
    const at = where ? where[i]! : i;
    weight[at] = weight[at]! * (table[k]! + (table[k + 1]! - table[k]!) * (x - k));
  }
}
