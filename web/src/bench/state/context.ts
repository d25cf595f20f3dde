'use client';
import { createContext, useContext, useMemo } from 'react';
import type { ColourSpace } from '@umbo/core/base';
import { spaces } from '@umbo/core/colour';
import { eachLayer, findLayer, findMaskOwner, type Layer, type MaskOwner } from '@umbo/core/document';
import { useStore } from 'zustand';
import type { BenchState, BenchStore } from './benchState';

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
  return useBench(({ document, layerId }) => findLayer(document, layerId) ?? null);
}

/** The layer or region in work as it is shown now. */
export function useMaskOwner(): MaskOwner | null {
  return useBench(({ document, layerId }) => findMaskOwner(document, layerId) ?? null);
}

/** What the numbers of the edit's colours mean. */
export const useSpace = (): ColourSpace => useBench(({ document }) => spaces[document.workingSpace]);

/** The regions, and the layers beside one, that have a mask. */
export function useMasksOfOthers(layerId: string): readonly MaskOwner[] {
  const committed = useBench((state) => state.committed);
  return useMemo(
    () =>
      [...(committed.regions ?? []), ...eachLayer(committed.layers)].filter(
        ({ id, where }) => id !== layerId && (where.parts.length > 0 || where.link !== undefined),
      ),
    [committed, layerId],
  );
}

/** For the parts of the desk: each is drawn again only when its own part of the layer changed, not while another one is dragged. */
export const sameFor =
  <K extends 'where' | 'what' | 'how'>(part: K) =>
  (a: { layer: { id: string; name: string } & Partial<Record<K, unknown>> }, b: typeof a): boolean =>
    a.layer.id === b.layer.id && a.layer.name === b.layer.name && a.layer[part] === b.layer[part];
