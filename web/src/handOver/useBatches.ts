'use client';
import { useCallback, useRef, useState } from 'react';
import type { BatchSummary } from '@umbo/data';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';

/** Hundreds of files tell of themselves one by one: they are looked at together. */
const LOOK_AFTER_MS = 300;

/** What was asked for together, read again whenever anything in it changes. */
export function useBatches(initial: BatchSummary[]): { list: BatchSummary[]; refresh: () => Promise<void> } {
  const [list, setList] = useState(initial);
  const refresh = useCallback(async () => {
    // The list of single files says what is wrong with the server.
    await request<BatchSummary[]>('GET', '/api/hand-overs/batches').then(setList, () => undefined);
  }, []);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useServerEvents(
    ({ kind }) => kind === 'hand-over',
    () => {
      timer.current ??= setTimeout(() => {
        timer.current = undefined;
        void refresh();
      }, LOOK_AFTER_MS);
    },
  );
  return { list, refresh };
}
