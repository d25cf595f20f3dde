'use client';
import { useCallback, useEffect, useState } from 'react';
import type { HandOverSummary } from '@umbo/data';
import { request } from '@/ui/request';

const LOOK_EVERY_MS = 400;

/** The queue, looked at again while anything in it is at work. */
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
  const active = list.some(({ state }) => state === 'queued' || state === 'running') || problem !== null;
  useEffect(() => {
    if (!active) return;
    const timer = setInterval(() => void refresh(), LOOK_EVERY_MS);
    return () => clearInterval(timer);
  }, [active, refresh]);
  return { list, problem, refresh };
}
