'use client';
/** What a person can do with layers and masks, in words for the history. */
import {
  adjustmentLayer,
  adjustments,
  blendModes,
  copyLayer,
  insertLayer,
  maskPartKind,
  moveLayer,
  onLayer,
  removeLayer,
  type Combine,
  type Layer,
  type MaskPart,
} from '@umbo/core';
import type { BenchState } from './store';

const newId = (): string => crypto.randomUUID();
const layerOf = (state: BenchState, id = state.layerId): Layer | undefined => state.committed.layers.find((layer) => layer.id === id);

function freeName(state: BenchState, wanted: string): string {
  const taken = new Set(state.committed.layers.map(({ name }) => name));
  for (let n = 1; ; n++) if (!taken.has(`${wanted} ${n}`)) return `${wanted} ${n}`;
}

export function addLayer(state: BenchState): void {
  const [first] = adjustments;
  const layer = adjustmentLayer(newId(), first.kind, freeName(state, 'Layer'));
  state.commit(`New layer ${layer.name}`, insertLayer(layer, state.layerId ?? state.committed.layers.at(-1)?.id ?? null));
  state.select(layer.id);
}

export function duplicateLayer(state: BenchState, id?: string): void {
  const layer = layerOf(state, id ?? state.layerId);
  if (!layer) return;
  const copy = copyLayer(layer, newId, `${layer.name} copy`.slice(0, 120));
  state.commit(`Copy of ${layer.name}`, insertLayer(copy, layer.id));
  state.select(copy.id);
}

export function deleteLayer(state: BenchState, id?: string): void {
  const layer = layerOf(state, id ?? state.layerId);
  if (!layer) return;
  const at = state.committed.layers.indexOf(layer);
  const neighbour = state.committed.layers[at + 1] ?? state.committed.layers[at - 1];
  state.commit(`Delete layer ${layer.name}`, removeLayer(layer.id));
  if (state.layerId === layer.id) state.select(neighbour?.id ?? null);
}

export function renameLayer(state: BenchState, id: string, name: string): void {
  const clean = name.trim().slice(0, 120);
  if (clean && clean !== layerOf(state, id)?.name)
    state.commit(
      `Name ${clean}`,
      onLayer(id, (layer) => void (layer.name = clean)),
    );
}

export function switchLayer(state: BenchState, id?: string): void {
  const layer = layerOf(state, id ?? state.layerId);
  if (layer)
    state.commit(
      `${layer.name} ${layer.on ? 'off' : 'on'}`,
      onLayer(layer.id, (draft) => void (draft.on = !layer.on)),
    );
}

/** @param to place in the order, 0 being the lowest */
export function placeLayer(state: BenchState, id: string, to: number): void {
  const layer = layerOf(state, id);
  if (layer) state.commit(`Move ${layer.name}`, moveLayer(id, to));
}

export function stepBlendMode(state: BenchState, by: 1 | -1): void {
  const layer = layerOf(state);
  if (!layer) return;
  const at = blendModes.findIndex(({ id }) => id === layer.how.mode);
  const next = blendModes[(at + by + blendModes.length) % blendModes.length]!;
  state.commit(
    `${next.name} on ${layer.name}`,
    onLayer(layer.id, ({ how }) => void (how.mode = next.id)),
  );
}

/** Adds a mask part to the selected layer. @returns its id */
export function addPart(state: BenchState, kind: MaskPart['kind'], settings: object = {}): string | null {
  const layer = layerOf(state);
  if (!layer) return null;
  const combine: Combine = layer.where.parts.length > 0 ? 'common' : 'add';
  const part = { ...maskPartKind(kind).create(newId(), combine), ...settings } as MaskPart;
  state.commit(
    `${maskPartKind(kind).name} for ${layer.name}`,
    onLayer(layer.id, ({ where }) => void where.parts.push(part)),
  );
  state.select(layer.id, part.id);
  return part.id;
}

export function deletePart(state: BenchState, partId: string): void {
  const layer = layerOf(state);
  const part = layer?.where.parts.find(({ id }) => id === partId);
  if (!layer || !part) return;
  state.commit(
    `Remove ${maskPartKind(part.kind).name.toLowerCase()} from ${layer.name}`,
    onLayer(layer.id, ({ where }) => void (where.parts = where.parts.filter(({ id }) => id !== partId))),
  );
}

/** Changes the selected layer's part in place. */
export function onPart<P extends MaskPart>(layerId: string, partId: string, change: (part: P) => void) {
  return onLayer(layerId, ({ where }) => {
    const part = where.parts.find(({ id }) => id === partId);
    if (part) change(part as P);
  });
}
