'use client';
import { useCallback, useEffect, useRef } from 'react';

/** Does something after a while, once for all that asked for it meanwhile. */
export function useSoon(work: () => void, ms: number): () => void {
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const latest = useRef(work);
  latest.current = work;
  useEffect(
    () => () => {
      clearTimeout(timer.current);
      timer.current = undefined;
    },
    [],
  );
  return useCallback(() => {
    timer.current ??= setTimeout(() => {
      timer.current = undefined;
      latest.current();
    }, ms);
  }, [ms]);
}
