'use client';
import { useCallback, useState } from 'react';
import type { BatchSummary } from '@umbo/data';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';
import { useSoon } from '@/ui/useSoon';

/** Hundreds of files tell of themselves one by one: they are looked at together. */
const LOOK_AFTER_MS = 300;

/** What was asked for together, read again whenever anything in it changes. */
export function useBatches(initial: BatchSummary[]): { list: BatchSummary[]; refresh: () => Promise<void> } {
  const [list, setList] = useState(initial);
  const refresh = useCallback(async () => {
    // The list of single files says what is wrong with the server.
    await request<BatchSummary[]>('GET', '/api/hand-overs/batches').then(setList, () => undefined);
  }, []);
  useServerEvents(
    ({ kind }) => kind === 'hand-over',
    useSoon(() => void refresh(), LOOK_AFTER_MS),
  );
  return { list, refresh };
}
