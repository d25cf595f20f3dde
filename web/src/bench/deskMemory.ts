/** How the desk of a photograph was left, in this browser: what is no part of the edit. */
import type { BenchState, BenchStore, ShootInfo } from './store';

type Desk = Pick<BenchState, 'folded' | 'references'>;

const keyOf = (photographId: number): string => `umbo-desk-${photographId}`;

function kept(photographId: number, shoot: ShootInfo): Desk {
  const ids = new Set(shoot.photographs.map(({ id }) => id));
  try {
    const { folded, references } = JSON.parse(localStorage.getItem(keyOf(photographId)) ?? '{}') as Record<keyof Desk, unknown>;
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
  const { photograph, shoot, set } = getState();
  set(kept(photograph.id, shoot));
  return subscribe(({ folded, references }, before) => {
    if (folded === before.folded && references === before.references) return;
    localStorage.setItem(keyOf(photograph.id), JSON.stringify({ folded, references }));
  });
}
