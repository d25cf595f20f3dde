'use client';
import { useCallback, useState } from 'react';
import type { HandOverSummary } from '@umbo/data';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';

/** The queue, read again whenever anything in it changes. */
export function useHandOvers(initial: HandOverSummary[]): {
  list: HandOverSummary[];
  problem: string | null;
  refresh: () => Promise<void>;
} {
  const [list, setList] = useState(initial);
  const [problem, setProblem] = useState<string | null>(null);
  const refresh = useCallback(async () => {
    try {
      setList(await request<HandOverSummary[]>('GET', '/api/hand-overs'));
      setProblem(null);
    } catch (error) {
      setProblem((error as Error).message);
    }
  }, []);
  useServerEvents(
    ({ kind }) => kind === 'hand-over',
    () => void refresh(),
  );
  return { list, problem, refresh };
}
