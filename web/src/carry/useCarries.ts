'use client';
import { useCallback, useEffect, useState } from 'react';
import type { CarrySummary } from '@umbo/data';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';
import { useSoon } from '@/ui/useSoon';

/** Hundreds of photographs tell of themselves one by one: they are looked at together. */
const LOOK_AFTER_MS = 300;

/** How many photographs of a carry are still to come. */
export const leftOf = ({ photographs, done, failed, cancelled }: CarrySummary): number => photographs - done - failed - cancelled;

/** What was carried in a shoot, read again whenever anything in it changes. */
export function useCarries(shootId: number): { list: readonly CarrySummary[]; refresh: () => Promise<void> } {
  const [list, setList] = useState<readonly CarrySummary[]>([]);
  const refresh = useCallback(async () => {
    // Without an answer it is looked at when something happens next.
    await request<CarrySummary[]>('GET', `/api/shoots/${shootId}/carries`).then(setList, () => undefined);
  }, [shootId]);
  const soon = useSoon(() => void refresh(), LOOK_AFTER_MS);
  useEffect(soon, [soon, shootId]);
  useServerEvents(({ kind, subject }) => kind === 'carry' && subject === shootId, soon);
  return { list, refresh };
}
