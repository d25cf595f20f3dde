'use client';
/** Small pictures of edits: only those in sight are asked for, all in one question, again and again until they are there. */
import { useEffect, useState, type RefObject } from 'react';
import { request } from '@/ui/request';
import { onServerEvents } from '@/ui/serverEvents';

const ASK_AFTER_MS = 60;
/** What nobody asks for again within ten seconds is not made. */
const ASK_AGAIN_MS = 4000;
/** As many as one question may name. */
const AT_ONCE = 100;

interface Wanted {
  id: number;
  revision: number;
  /** Called with the revision that there is a preview of, which may be an earlier one. */
  there: (revision: number) => void;
}

const wanted = new Set<Wanted>();
let timer: ReturnType<typeof setTimeout> | null = null;

function askSoon(ms: number): void {
  timer ??= setTimeout(() => void ask(), ms);
}

/** Some of them are there. */
function askNow(): void {
  if (timer !== null) clearTimeout(timer);
  timer = null;
  askSoon(0);
}

async function ask(): Promise<void> {
  const asked = [...wanted].slice(0, AT_ONCE);
  try {
    const wishes = asked.map(({ id, revision }) => ({ id, revision }));
    const ready = wishes.length === 0 ? [] : await request<typeof wishes>('POST', '/api/previews', { wanted: wishes });
    // One photograph may be wanted twice, in two states of its edit.
    const there = new Map(ready.map(({ id, revision }) => [id, revision]));
    for (const one of asked)
      if (there.has(one.id)) {
        if (there.get(one.id)! >= one.revision) wanted.delete(one);
        one.there(there.get(one.id)!);
      }
  } catch {
    // asked again below: the server may be back by then
  }
  timer = null;
  if (wanted.size > 0) askSoon(ASK_AGAIN_MS);
}

let isListening = false;

function want(one: Wanted): () => void {
  wanted.add(one);
  if (!isListening) onServerEvents((heard) => void (heard?.some(({ kind }) => kind === 'preview') && wanted.size > 0 && askNow()));
  isListening = true;
  askSoon(ASK_AFTER_MS);
  return () => void wanted.delete(one);
}

/** Whether something on the page is in sight, or nearly. @param margin how far around what is seen, in pixels */
export function useInSight(element: RefObject<Element | null>, margin: number): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const observer = new IntersectionObserver(([entry]) => setSeen(entry!.isIntersecting), { rootMargin: `${margin}px 0px` });
    observer.observe(element.current!);
    return () => observer.disconnect();
  }, [element, margin]);
  return seen;
}

/**
 * The revision of an edit that a preview shows: of the one that is wanted, or of an earlier one until that is there; 0 while there is none.
 * Asks for it while it is in sight.
 */
export function usePreview(id: number, revision: number, inSight: boolean): number {
  const [shown, setShown] = useState(0);
  useEffect(() => {
    if (!inSight || shown >= revision) return;
    return want({ id, revision, there: setShown });
  }, [id, revision, inSight, shown]);
  return shown;
}
