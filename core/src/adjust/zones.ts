/** Shadows, midtones and highlights as soft shares of the tones. */
import { smoothStep } from '../base/number.ts';

const STEPS = 1024;

export interface Zones {
  readonly shadows: Float32Array;
  readonly midtones: Float32Array;
  readonly highlights: Float32Array;
}

/**
 * The share of every tone in each zone; the three add up to 1.
 * @param balance -1..1: below 0 more of the tones count as shadows, above 0 more as highlights
 * @param overlap 0..1: how softly the zones pass into each other
 */
export function toneZones(balance: number, overlap: number): Zones {
  const key = `${balance} ${overlap}`;
  if (last?.key !== key) last = { key, zones: zonesOf(balance, overlap) };
  return last.zones;
}

/** Settings of zones change one after the other, and mostly these two stay. */
let last: { key: string; zones: Zones } | null = null;

function zonesOf(balance: number, overlap: number): Zones {
  const width = 0.02 + overlap * 0.33;
  const table = (f: (v: number) => number): Float32Array => Float32Array.from({ length: STEPS + 1 }, (_, i) => f(i / STEPS));
  const shadow = (v: number): number => smoothStep((1 / 3 - balance * 0.3 + width - v) / (2 * width));
  const highlight = (v: number): number => smoothStep((v - (2 / 3 - balance * 0.3 - width)) / (2 * width));
  return {
    shadows: table(shadow),
    midtones: table((v) => Math.max(0, 1 - shadow(v) - highlight(v))),
    highlights: table(highlight),
  };
}

/** The place of a tone, nominal 0..1, in a zone's table. */
export const zoneIndex = (v: number): number => (v > 0 ? (v < 1 ? (v * STEPS + 0.5) | 0 : STEPS) : 0);
