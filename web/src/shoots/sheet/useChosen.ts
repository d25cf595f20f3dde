'use client';
import type { PhotographSummary } from '@umbo/data';
import { useEffect, useState } from 'react';
import { keepChosen, keptChosen } from '@/ui/chosen';

export interface Chosen {
  ids: ReadonlySet<number>;
  choose: (next: ReadonlySet<number>) => void;
  /** Has the bench know what is chosen and in which order photographs stand. */
  keep: () => void;
}

/** The photographs that are chosen. What was chosen when one went to the bench is chosen when one is back. */
export function useChosen(shootId: number, shown: readonly PhotographSummary[]): Chosen {
  const [ids, setIds] = useState<ReadonlySet<number>>(new Set());
  useEffect(() => setIds(new Set(keptChosen(shootId).chosen)), [shootId]);
  const keep = (next: ReadonlySet<number>): void =>
    keepChosen(shootId, { order: shown.map(({ id }) => id), chosen: shown.flatMap(({ id }) => (next.has(id) ? [id] : [])) });
  return {
    ids,
    choose(next) {
      setIds(next);
      keep(next);
    },
    keep: () => keep(ids),
  };
}
