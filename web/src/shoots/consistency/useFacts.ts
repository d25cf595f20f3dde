'use client';
import { useCallback, useEffect, useState } from 'react';
import type { ColourFacts } from '@umbo/data';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';
import { useSoon } from '@/ui/useSoon';

const LOOK_AFTER_MS = 400;
/** What nobody asks for again within ten seconds is not measured. */
const ASK_AGAIN_MS = 4000;
/** As many as one question may name. */
const AT_ONCE = 100;

/** What is known of the colours of photographs, asked for until all of it is known, and again when an edit is another. */
export function useFacts(shootId: number, of: readonly number[], initial: readonly ColourFacts[]): readonly ColourFacts[] {
  const [facts, setFacts] = useState(initial);
  const address = `/api/shoots/${shootId}/colours${of.length > 0 ? `?of=${of.join(',')}` : ''}`;
  const look = useCallback(async (): Promise<void> => {
    // Without an answer it is looked at when something happens next.
    await request<ColourFacts[]>('GET', address).then(setFacts, () => undefined);
  }, [address]);
  useServerEvents(
    ({ kind, subject }) => (kind === 'preview' || kind === 'document') && facts.some(({ photographId }) => photographId === subject),
    useSoon(() => void look(), LOOK_AFTER_MS),
  );
  const missing = JSON.stringify(
    facts
      .filter(({ isCurrent }) => !isCurrent)
      .slice(0, AT_ONCE)
      .map(({ photographId, revision }) => ({ id: photographId, revision })),
  );
  useEffect(() => {
    if (missing === '[]') return;
    const ask = (): void => void request('POST', '/api/previews', { wanted: JSON.parse(missing) }).catch(() => undefined);
    ask();
    const again = setInterval(ask, ASK_AGAIN_MS);
    return () => clearInterval(again);
  }, [missing]);
  return facts;
}
