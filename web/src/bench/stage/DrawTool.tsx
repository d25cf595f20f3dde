'use client';
import { findMaskOwner, onMaskOwner, type Recipe } from '@umbo/core/document';
import { maskPartKind, partsAt, type MaskPart } from '@umbo/core/mask';
import { useRef, type PointerEvent, type RefObject } from 'react';
import { ownMask } from '../state/masks';
import { useBench, useBenchStore } from '../state/context';
import { usualJoin } from '../state/strokes';
import { Overlay, photoPoint } from './overlay';

/** A drag shorter than this on the screen draws nothing. */
const LEAST = 6;

/** Draws a mask part by one drag; Shift keeps it even. */
export function DrawTool({ kind, box }: { kind: MaskPart['kind']; box: RefObject<HTMLElement | null> }) {
  const store = useBenchStore();
  const view = useBench((state) => state.view);
  const held = useRef<{
    x: number;
    y: number;
    layerId: string;
    name: string;
    beside: string | null;
    part: MaskPart;
    from: { x: number; y: number };
  } | null>(null);

  /** The drag so far; null while it is too short to mean anything. */
  const drawn = (event: PointerEvent): Recipe | null => {
    const now = held.current;
    if (!now || Math.hypot(event.clientX - now.x, event.clientY - now.y) < LEAST) return null;
    const [x, y] = photoPoint(event, box.current!, view);
    const part = structuredClone(now.part);
    maskPartKind(kind).draw!(part, now.from, { x, y }, event.shiftKey);
    return onMaskOwner(now.layerId, ({ where }) => {
      const parts = partsAt(where, now.beside);
      const at = parts.findIndex(({ id }) => id === part.id);
      if (at < 0) parts.push(part);
      else parts[at] = part;
    });
  };
  const down = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    event.stopPropagation();
    const state = store.getState();
    const layer = ownMask(state, findMaskOwner(state.committed, state.layerId));
    if (!layer) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    box.current!.focus({ preventScroll: true });
    const [x, y] = photoPoint(event, box.current!, view);
    const combine = state.joins ?? usualJoin(partsAt(layer.where, state.partId), false);
    const part = maskPartKind(kind).create(crypto.randomUUID(), combine, state.photograph);
    held.current = { x: event.clientX, y: event.clientY, layerId: layer.id, name: layer.name, beside: state.partId, part, from: { x, y } };
  };
  const move = (event: PointerEvent): void => {
    const recipe = drawn(event);
    if (recipe) store.getState().preview(recipe);
  };
  const up = (event: PointerEvent): void => {
    const [now, recipe] = [held.current, drawn(event)];
    held.current = null;
    store.getState().cancelPreview();
    if (!now || !recipe || !store.getState().commit(`${maskPartKind(kind).name} for ${now.name}`, recipe)) return;
    // In hand is then what moves its handles.
    store.getState().select(now.layerId, now.part.id);
    store.getState().set({ tool: 'move', joins: null });
  };
  const cancel = (): void => {
    held.current = null;
    store.getState().cancelPreview();
  };
  return (
    <Overlay
      data-testid="draw"
      style={{ cursor: 'crosshair' }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={cancel}
    />
  );
}
