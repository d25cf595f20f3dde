/** Which cast a reading has, and what takes it out: in words. */
import type { Lab } from '@umbo/core/colour';
import { labOf, readingsOf, targetOf } from './readings';
import type { BenchState } from './benchState';

interface Cast {
  /** The colour of the reading against what it should be: its a* and b* beyond that. */
  readonly a: number;
  readonly b: number;
}

/** Names of casts by the angle in the plane of a* and b*. */
const CASTS = ['magenta-red', 'orange', 'yellow', 'yellow-green', 'green', 'cyan-blue', 'blue', 'violet'] as const;
/** A cast under this is not seen. */
const UNSEEN = 1;

/** Against its target; one that has none, against grey. */
export function castOf(state: Pick<BenchState, 'readings' | 'committed'>, id: string): Cast | null {
  const reading = readingsOf(state).find((one) => one.id === id);
  const is = labOf(state, id, 'after');
  if (!reading || !is) return null;
  const to: Lab = targetOf(state, reading) ?? { l: is.l, a: 0, b: 0 };
  return { a: is.a - to.a, b: is.b - to.b };
}

/**
 * Such as "Cast: yellow-green, 9. Takes 6 toward blue, 2 toward magenta."
 */
export function castWords({ a, b }: Cast): string {
  const strength = Math.hypot(a, b);
  if (strength < UNSEEN) return 'No cast.';
  const name = CASTS[Math.round(((Math.atan2(b, a) * 180) / Math.PI + 360) / 45) % 8]!;
  const ways = [[Math.abs(b), b > 0 ? 'blue' : 'yellow'] as const, [Math.abs(a), a > 0 ? 'green' : 'magenta'] as const]
    .filter(([by]) => by >= UNSEEN)
    .sort((p, q) => q[0] - p[0])
    .map(([by, way]) => `${by.toFixed(0)} toward ${way}`);
  return `Cast: ${name}, ${strength.toFixed(0)}${ways.length > 0 ? `. Takes ${ways.join(', ')}` : ''}.`;
}
