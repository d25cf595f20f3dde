'use client';
import type { PhotographSummary } from '@umbo/data';
import { useEffect, useState } from 'react';
import { request } from '@/ui/request';

/** The photographs of a shoot. */
export function usePhotographs(shootId: number, fail: (words: string) => void): readonly PhotographSummary[] {
  const [photographs, setPhotographs] = useState<readonly PhotographSummary[]>([]);
  useEffect(() => {
    request<{ photographs: PhotographSummary[] }>('GET', `/api/shoots/${shootId}`).then(
      ({ photographs: found }) => setPhotographs(found),
      (error: Error) => fail(error.message),
    );
  }, [shootId]);
  return photographs;
}
