'use client';
/** What the bench does with layers that came from a treatment. */
import { findLayer, onLayer, type Layer } from '@umbo/core/document';
import type { BenchState } from '@/bench/state/benchState';

/** The layers are the photograph's own from now on: the treatment does not reach them any more. */
export const letGo = (state: BenchState, { id, name }: Layer): void =>
  void state.commit(
    `${name} let go of its treatment`,
    onLayer(id, (layer) => void delete layer.treatment),
  );

/** A group that was kept as a treatment is from now on one that uses it. */
export function cameFrom(
  state: BenchState,
  layers: readonly string[],
  { id, version, name }: { id: string; version: number; name: string },
): void {
  const [only] = layers.length === 1 ? layers : [];
  const isGroup = only !== undefined && findLayer(state.committed, only)?.what.kind === 'group';
  if (isGroup)
    state.commit(
      `Kept as ${name}, version ${version}`,
      onLayer(only, (layer) => void (layer.treatment = { id, version })),
    );
  state.set({ notice: `Kept as “${name}”, version ${version}: it is among the treatments.` });
}
