'use client';
/** What the readings of other photographs of the shoot were when they were seen last, in this browser: targets for those of this one. */
import type { Lab } from '@umbo/core/colour';
import { labOf, readingsOf } from './readings';
import type { BenchState } from './benchState';

export interface OtherReading {
  /** Such as "garden-2.jpg, B Face". */
  readonly name: string;
  readonly lab: Lab;
}

/** By the ids of photographs. */
type Seen = Record<string, OtherReading[]>;
type Known = Pick<BenchState, 'database' | 'shoot' | 'photograph'>;

const keyOf = ({ database, shoot }: Known): string => `umbo-readings-${database}-${shoot.id}`;

const isSeen = (value: unknown): value is OtherReading => {
  const { name, lab } = (value ?? {}) as { name?: unknown; lab?: Record<string, unknown> };
  return typeof name === 'string' && ['l', 'a', 'b'].every((axis) => Number.isFinite(lab?.[axis]));
};

function seenIn(state: Known): Seen {
  try {
    return JSON.parse(localStorage.getItem(keyOf(state)) ?? '{}') as Seen;
  } catch {
    return {};
  }
}

/** Keeps what the readings of this photograph are now. */
export function rememberReadings(state: BenchState): void {
  const { photograph } = state;
  const own = readingsOf(state).flatMap(({ id, letter, name }): OtherReading[] => {
    const lab = labOf(state, id, 'after');
    return lab ? [{ name: `${photograph.name}, ${letter} ${name}`.slice(0, 120), lab }] : [];
  });
  localStorage.setItem(keyOf(state), JSON.stringify({ ...seenIn(state), [photograph.id]: own } satisfies Seen));
}

/** Of the photographs that are still in the shoot, but this one. */
export function otherReadings(state: Known): OtherReading[] {
  const seen = seenIn(state);
  const others = state.shoot.photographs.filter(({ id }) => id !== state.photograph.id);
  return others.flatMap(({ id }) => (Array.isArray(seen[id]) ? seen[id].filter(isSeen) : []));
}
