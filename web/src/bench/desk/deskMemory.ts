/** How the desk of a photograph was left, in this browser: what is no part of the edit. */
import type { BenchState, BenchStore } from '../state/benchState';

type Desk = Pick<BenchState, 'folded' | 'references'>;

const keyOf = ({ database, photograph }: BenchState): string => `umbo-desk-${database}-${photograph.id}`;

function kept(state: BenchState): Desk {
  const ids = new Set(state.shoot.photographs.map(({ id }) => id));
  try {
    const { folded, references } = JSON.parse(localStorage.getItem(keyOf(state)) ?? '{}') as Record<keyof Desk, unknown>;
    return {
      folded: Array.isArray(folded) ? folded.filter((id) => typeof id === 'string') : [],
      references: Array.isArray(references) ? references.filter((id: number) => ids.has(id)) : null,
    };
  } catch {
    return { folded: [], references: null };
  }
}

/** Brings the desk back as it was left, and keeps what changes. @returns what ends that */
export function rememberDesk({ getState, subscribe }: BenchStore): () => void {
  getState().set(kept(getState()));
  return subscribe(({ folded, references }, before) => {
    if (folded === before.folded && references === before.references) return;
    localStorage.setItem(keyOf(getState()), JSON.stringify({ folded, references }));
  });
}
