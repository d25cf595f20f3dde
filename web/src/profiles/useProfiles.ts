'use client';
/** The ICC profiles of a shoot. */
import type { Profile } from '@umbo/data';
import { useCallback, useEffect, useState } from 'react';
import { request } from '@/ui/request';

/** Displays without a profile of their own, as profiles are named and shown. */
export const DISPLAYS = [
  ['srgb', 'sRGB display'],
  ['display-p3', 'P3 display'],
] as const;

export interface Profiles {
  /** Null until they are read. */
  list: readonly Profile[] | null;
  problem: string | null;
  /** @returns the profile that is kept now; null when it was not taken */
  add: (file: File) => Promise<Profile | null>;
  remove: (id: number) => Promise<void>;
}

export function useProfiles(shootId: number): Profiles {
  const [list, setList] = useState<readonly Profile[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const address = `/api/shoots/${shootId}/profiles`;
  /** Does something and reads anew: another window may have changed them as well. */
  const then = useCallback(
    async <T>(work: () => Promise<T>): Promise<T | null> => {
      try {
        const result = await work();
        setList(await request<Profile[]>('GET', address));
        setProblem(null);
        return result;
      } catch (error) {
        setProblem((error as Error).message);
        return null;
      }
    },
    [address],
  );
  useEffect(() => void then(async () => undefined), [then]);
  return {
    list,
    problem,
    add: (file) => then(() => request<Profile>('POST', `${address}?key=${crypto.randomUUID()}`, file)),
    remove: async (id) => void (await then(() => request('DELETE', `/api/profiles/${id}`))),
  };
}
