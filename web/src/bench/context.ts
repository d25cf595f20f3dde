'use client';
import { createContext, useContext } from 'react';
import type { Layer } from '@umbo/core';
import { useStore } from 'zustand';
import type { BenchState, BenchStore } from './store';

export const BenchContext = createContext<BenchStore | null>(null);

export function useBenchStore(): BenchStore {
  const store = useContext(BenchContext);
  if (!store) throw new Error('This component belongs on a bench');
  return store;
}

export function useBench<T>(select: (state: BenchState) => T): T {
  return useStore(useBenchStore(), select);
}

/** The selected layer as it is shown now. */
export function useLayer(): Layer | null {
  return useBench(({ document, layerId }) => document.layers.find(({ id }) => id === layerId) ?? null);
}
