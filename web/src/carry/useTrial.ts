'use client';
import type { CarryDetail, CarrySource } from '@umbo/data';
import { useCallback, useEffect, useRef, useState } from 'react';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';
import { useSoon } from '@/ui/useSoon';
import { leftOf } from './useCarries';

const LOOK_AFTER_MS = 150;

/** What goes along of what is no photograph: all of it. */
export const ALL_OF_IT = { layers: 'all', regions: false, readings: false, geometry: false } as const;

/** What would come of carrying something, tried without changing anything. */
export interface Trial {
  readonly detail: CarryDetail | null;
  readonly problem: string | null;
  readonly start: (from: CarrySource, photographs: readonly number[]) => Promise<void>;
  /** Stops what is still to be tried, and forgets all of it. */
  readonly stop: () => void;
}

/** Trials that are looked at, by what they are of, as long as this tab is open: a trial goes on when its page is left, and is there again. */
const nameIn = (of: string): string => `umbo-trial-${of}`;

/** What it still does is seen by nobody; without an answer it comes to its end by itself. */
const callOff = (id: string): void => void request('POST', `/api/carries/${id}/cancel`).catch(() => undefined);

/** @param of what it is of, such as a version of a treatment and a shoot; null: it ends with what shows it */
export function useTrial(of: string | null): Trial {
  const [detail, setDetail] = useState<CarryDetail | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  /** The trial that is looked at; what is heard of another is too late. */
  const current = useRef<string | null>(null);

  const look = useCallback(async (): Promise<void> => {
    const id = current.current;
    if (id === null) return;
    // Without an answer it is looked at when something happens next.
    const found = await request<CarryDetail>('GET', `/api/carries/${id}`).catch(() => null);
    if (found && current.current === id) setDetail(found);
  }, []);
  useServerEvents(
    ({ kind }) => kind === 'carry' && current.current !== null,
    useSoon(() => void look(), LOOK_AFTER_MS),
  );

  const last = useRef<CarryDetail | null>(null);
  last.current = detail;
  const stop = useCallback((): void => {
    const id = current.current;
    current.current = null;
    if (of !== null) sessionStorage.removeItem(nameIn(of));
    if (id !== null && (!last.current || leftOf(last.current) > 0)) callOff(id);
    setDetail(null);
    setProblem(null);
  }, [of]);
  const start = useCallback(
    async (from: CarrySource, photographs: readonly number[]): Promise<void> => {
      stop();
      const key = crypto.randomUUID();
      current.current = key;
      if (of !== null) sessionStorage.setItem(nameIn(of), key);
      try {
        await request('POST', '/api/carries', { key, from, photographs, choice: ALL_OF_IT, how: 'replace', isTrial: true });
        // Called off before the server knew of it: it has to be told again.
        if (current.current === key) await look();
        else callOff(key);
      } catch (error) {
        if (current.current === key) setProblem((error as Error).message);
      }
    },
    [look, stop, of],
  );
  useEffect(() => {
    if (of === null) return stop;
    current.current = sessionStorage.getItem(nameIn(of));
    setDetail(null);
    setProblem(null);
    void look();
    return () => void (current.current = null);
  }, [look, stop, of]);
  return { detail, problem, start, stop };
}
