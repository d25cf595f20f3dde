'use client';
import type { KeptMask } from '@umbo/data';
import { useState } from 'react';
import { request } from '@/ui/request';
import { useBench, useBenchStore } from '../state/context';

/** The masks that are kept with the shoot, and a way to ask for them again. */
export function useKeptMasks(): [readonly KeptMask[], () => void] {
  const store = useBenchStore();
  const shootId = useBench((state) => state.shoot.id);
  const [kept, setKept] = useState<readonly KeptMask[]>([]);
  const refresh = (): void =>
    void request<KeptMask[]>('GET', `/api/shoots/${shootId}/masks`).then(setKept, (error: Error) =>
      store.getState().set({ notice: error.message }),
    );
  return [kept, refresh];
}
