'use client';
import { useEffect, useState } from 'react';

/** State of the interface that stays as it was left, in this browser. */
export function useKept<T extends string>(name: string, initial: T): [T, (value: T) => void] {
  const [value, setValue] = useState<T>(initial);
  // After the first render, which must equal the server's.
  useEffect(() => {
    const kept = localStorage.getItem(`umbo-${name}`);
    if (kept !== null) setValue(kept as T);
  }, [name]);
  return [
    value,
    (next) => {
      setValue(next);
      localStorage.setItem(`umbo-${name}`, next);
    },
  ];
}
