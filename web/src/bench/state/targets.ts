'use client';
/** Alternatives of a colourway set brought to measured colours, each by its own settings, as one step of the history. */
import { contentKind, difference, findLayer, onLayer, showing, type FoundBySolver, type Layer } from '@umbo/core/document';
import type { Lab } from '@umbo/core/colour';
import { farthest, type Reached, type Solved } from '@umbo/core/solve';
import type { BenchState } from './benchState';

/** Whether the settings of an alternative can be solved for; those of a group cannot. */
export const canBeAimed = ({ what }: Layer): boolean => contentKind(what)?.dials !== undefined;

/** The colour that an alternative was brought to, and on which reading; null: to none. */
export function colourwayAim({ foundBy }: Layer): { reading: string; lab: Lab } | null {
  const [only] = foundBy?.kind === 'solver' && foundBy.turned === 'settings' ? foundBy.readings : [];
  return only?.aim.kind === 'colour' ? { reading: only.id, lab: only.aim.lab } : null;
}

/** What became of each alternative, by its id; or why nothing was found. */
export type BroughtTo = ReadonlyMap<string, Reached | string>;

/**
 * Solves each alternative as if it showed, so that a reading becomes its colour.
 * @param wanted colours by the ids of alternatives
 * @returns null when it was called off
 */
export async function bringToTargets(
  now: () => BenchState,
  set: Layer,
  reading: string,
  wanted: ReadonlyMap<string, Lab>,
): Promise<BroughtTo | null> {
  const before = now().committed;
  const found = new Map<string, Solved>();
  const outcome = new Map<string, Reached | string>();
  try {
    for (const [id, lab] of wanted) {
      const layer = findLayer(before, id);
      if (!layer) continue;
      now().set({ solving: `Bringing ${layer.name} to its target…` });
      const aim = { kind: 'colour' as const, lab };
      const put = difference(before, showing(before, id));
      try {
        const solved = await now().solve({ layer, put, turned: 'settings', wanted: [{ id: reading, aim }] });
        found.set(id, solved);
        outcome.set(id, solved.reached[0]!);
      } catch (error) {
        outcome.set(id, (error as Error).message);
      }
      if (now().solving === null) return null;
    }
    if (now().committed !== before) {
      now().set({ notice: 'The edit was changed meanwhile: nothing was brought to its target.' });
      return null;
    }
    const names = found.size === 1 ? findLayer(before, [...found.keys()][0]!)!.name : `${found.size} alternatives of ${set.name}`;
    now().commit(`${names} to target`, (draft) => {
      for (const [id, { layer, reached }] of found) {
        const readings = [{ id: reading, aim: { kind: 'colour' as const, lab: wanted.get(id)! } }];
        const foundBy: FoundBySolver = { kind: 'solver', turned: 'settings', readings };
        const kept = { what: layer.what, foundBy: { ...foundBy, off: farthest(foundBy, reached) } };
        onLayer(id, (one) => void Object.assign(one, structuredClone(kept)))(draft);
      }
    });
    return outcome;
  } finally {
    now().set({ solving: null });
  }
}
