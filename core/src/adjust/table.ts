/** Tables for changes that look at one channel by itself. */
import { acceleration } from '../base/acceleration.ts';

/** The square root of the value indexes the table: fine steps where curves are steep. */
const STEPS = 2048;

/** @param f from 0..1 to any value */
export const channelTable = (f: (v: number) => number): Float32Array =>
  Float32Array.from({ length: STEPS + 2 }, (_, i) => f(Math.min(1, (i / STEPS) ** 2)));

/** The value of a {@link channelTable}; values outside 0..1 are held at the ends, and NaN at 0. */
export function lookUp(table: Float32Array, v: number): number {
  const x = v > 0 ? (v < 1 ? Math.sqrt(v) * STEPS : STEPS) : 0;
  const k = x | 0;
  return table[k]! + (table[k + 1]! - table[k]!) * (x - k);
}

/** Sends the first `n` values of a plane through a {@link channelTable}. */
export function throughTable(plane: Float32Array, n: number, table: Float32Array): void {
  if (acceleration) acceleration.throughTable(plane, n, table, STEPS);
  else throughTableDefined(plane, n, table);
}

/** The definition of {@link Acceleration.throughTable}. */
export function throughTableDefined(plane: Float32Array, n: number, table: Float32Array): void {
  for (let i = 0; i < n; i++) plane[i] = lookUp(table, plane[i]!);
}
