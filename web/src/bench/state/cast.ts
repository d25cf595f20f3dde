/** Which cast a reading has, and what takes it out: in words. */
import { rgbToLab, spaces, type Colour, type Lab } from '@umbo/core/colour';
import { labOf, readingsOf, targetOf } from './readings';
import type { BenchState } from './benchState';

interface Cast {
  /** The colour of the reading against what it should be: its a* and b* beyond that. */
  readonly a: number;
  readonly b: number;
  /** How strong it is in what is lighter and in what is darker than the mean. */
  readonly lights: number;
  readonly shadows: number;
}

/** Names of casts by the angle in the plane of a* and b*. */
const CASTS = ['magenta-red', 'orange', 'yellow', 'yellow-green', 'green', 'cyan-blue', 'blue', 'violet'] as const;
/** A cast under this is not seen. */
const UNSEEN = 1;
/** By so much lights and shadows differ before it is said. */
const UNEVEN = 2;

/** Against its target; one that has none, against grey. */
export function castOf(state: Pick<BenchState, 'readings' | 'committed'>, id: string): Cast | null {
  const reading = readingsOf(state).find((one) => one.id === id);
  const is = labOf(state, id, 'after');
  if (!reading || !is) return null;
  const to: Lab = targetOf(state, reading) ?? { l: is.l, a: 0, b: 0 };
  const values = state.readings.get(id)?.values.after;
  const space = spaces[state.committed.workingSpace];
  const strength = (colour: Colour | undefined): number => {
    const lab = colour ? rgbToLab(space, ...colour) : is;
    return Math.hypot(lab.a - to.a, lab.b - to.b);
  };
  return { a: is.a - to.a, b: is.b - to.b, lights: strength(values?.lights), shadows: strength(values?.shadows) };
}

/**
 * Such as "Cast: yellow-green, 9. Takes 6 toward blue, 2 toward magenta, in the lights more than in the shadows."
 */
export function castWords({ a, b, lights, shadows }: Cast): string {
  const strength = Math.hypot(a, b);
  if (strength < UNSEEN) return 'No cast.';
  const name = CASTS[Math.round(((Math.atan2(b, a) * 180) / Math.PI + 360) / 45) % 8]!;
  const ways = [[Math.abs(b), b > 0 ? 'blue' : 'yellow'] as const, [Math.abs(a), a > 0 ? 'green' : 'magenta'] as const]
    .filter(([by]) => by >= UNSEEN)
    .sort((p, q) => q[0] - p[0])
    .map(([by, way]) => `${by.toFixed(0)} toward ${way}`);
  const more =
    Math.abs(lights - shadows) < UNEVEN
      ? ''
      : `, in the ${lights > shadows ? 'lights more than in the shadows' : 'shadows more than in the lights'}`;
  return `Cast: ${name}, ${strength.toFixed(0)}${ways.length > 0 ? `. Takes ${ways.join(', ')}${more}` : ''}.`;
}
