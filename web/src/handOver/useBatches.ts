'use client';
import { useCallback, useState } from 'react';
import type { BatchSummary } from '@umbo/data';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';

/** What was asked for together, read again whenever anything in it changes. */
export function useBatches(initial: BatchSummary[]): { list: BatchSummary[]; refresh: () => Promise<void> } {
  const [list, setList] = useState(initial);
  const refresh = useCallback(async () => {
    // The list of single files says what is wrong with the server.
    await request<BatchSummary[]>('GET', '/api/hand-overs/batches').then(setList, () => undefined);
  }, []);
  useServerEvents(
    ({ kind }) => kind === 'hand-over',
    () => void refresh(),
  );
  return { list, refresh };
}
