'use client';
import { toTenth } from '@umbo/core/base';
import { findMaskOwner, onMaskOwner, type Recipe } from '@umbo/core/document';
import { findPart, maskPartKind, moveRegion } from '@umbo/core/mask';
import { useRef, type PointerEvent, type RefObject } from 'react';
import { useBench, useBenchStore } from '../state/context';
import { Overlay, photoPoint, type Point } from './overlay';

/** A drag of this many pixels to the right makes a region e times as large. */
const GROW_OVER = 300;
/** Moves the mask part in work, with Ctrl all that have a place; with Shift it scales about the pointer, with Alt it moves a copy. */
export function RegionTool({ box }: { box: RefObject<HTMLElement | null> }) {
  const store = useBenchStore();
  const view = useBench((state) => state.view);
  const held = useRef<{
    x: number;
    from: Point;
    layerId: string;
    name: string;
    ids: Map<string, string>;
    only: string | null;
    scales: boolean;
    copies: boolean;
  } | null>(null);
  const recipe = (event: PointerEvent): { words: string; recipe: Recipe } => {
    const now = held.current!;
    const [x, y] = photoPoint(event, box.current!, view);
    const scale = now.scales ? Math.exp((event.clientX - now.x) / GROW_OVER) : 1;
    const move = {
      dx: now.scales ? 0 : toTenth(x - now.from[0]),
      dy: now.scales ? 0 : toTenth(y - now.from[1]),
      scale,
      about: { x: now.from[0], y: now.from[1] },
    };
    const idOf = (id: string): string => {
      if (!now.ids.has(id)) now.ids.set(id, crypto.randomUUID());
      return now.ids.get(id)!;
    };
    return {
      words: now.scales
        ? `Region ${Math.round(scale * 100)} % on ${now.name}`
        : `${now.copies ? 'Copy of the region' : 'Region moved'} on ${now.name}`,
      recipe: onMaskOwner(now.layerId, ({ where }) => moveRegion(where, move, now.only, now.copies ? idOf : null)),
    };
  };
  const down = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    event.stopPropagation();
    const { committed, layerId, partId } = store.getState();
    const layer = findMaskOwner(committed, layerId);
    if (!layer || layer.where.link !== undefined) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    box.current!.focus({ preventScroll: true });
    const from = photoPoint(event, box.current!, view);
    const part = findPart(layer.where, partId);
    const all = event.ctrlKey || event.metaKey || !part || maskPartKind(part.kind).fit === undefined;
    held.current = {
      x: event.clientX,
      from,
      layerId: layer.id,
      name: layer.name,
      ids: new Map(),
      only: all ? null : part.id,
      scales: event.shiftKey,
      copies: event.altKey,
    };
  };
  const preview = (event: PointerEvent): void => {
    if (!held.current) return;
    store.getState().cancelPreview();
    store.getState().preview(recipe(event).recipe);
  };
  const up = (event: PointerEvent): void => {
    if (!held.current) return;
    const { words, recipe: change } = recipe(event);
    const moved = Math.abs(event.clientX - held.current.x) + Math.abs(photoPoint(event, box.current!, view)[1] - held.current.from[1]) > 0;
    held.current = null;
    store.getState().cancelPreview();
    if (moved) store.getState().commit(words, change);
  };
  const cancel = (): void => {
    held.current = null;
    store.getState().cancelPreview();
  };
  return (
    <Overlay
      data-testid="region"
      style={{ cursor: 'move' }}
      onPointerDown={down}
      onPointerMove={preview}
      onPointerUp={up}
      onPointerCancel={cancel}
    />
  );
}
