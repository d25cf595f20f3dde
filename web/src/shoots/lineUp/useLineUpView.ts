'use client';
import type { Size } from '@umbo/core/base';
import { useEffect, useState, type Dispatch, type SetStateAction } from 'react';
import type { LineUpCell } from '../../workers/lineUpProtocol';
import { FITTED, ZOOMS, type LineUpView } from './place';

const placeKey = (shootId: number): string => `umbo-lineUp-${shootId}`;

function keptPlace(shootId: number): LineUpView {
  try {
    const { zoom, x, y } = JSON.parse(sessionStorage.getItem(placeKey(shootId)) ?? '') as LineUpView;
    return [zoom, x, y].every(Number.isFinite) ? { zoom, x, y } : FITTED;
  } catch {
    return FITTED;
  }
}

/** The place that all photographs are looked at, as it was when this shoot was lineUped last. */
export function useLineUpView(shootId: number): [LineUpView, Dispatch<SetStateAction<LineUpView>>] {
  const [view, setView] = useState(FITTED);
  useEffect(() => setView(keptPlace(shootId)), [shootId]);
  useEffect(() => sessionStorage.setItem(placeKey(shootId), JSON.stringify(view)), [shootId, view]);
  return [view, setView];
}

type Photographs = readonly (Size & { id: number })[];
/** A place of a photograph's cell, in pixels of the screen. */
export interface CellPlace {
  id: number;
  x: number;
  y: number;
}

/** Nearer or farther; what is under the pointer stays there. */
export function zoomed(
  before: LineUpView,
  factor: number,
  photographs: Photographs,
  cells: readonly LineUpCell[],
  at: CellPlace | undefined,
): LineUpView {
  const zoom = Math.min(ZOOMS[1], Math.max(ZOOMS[0], before.zoom * factor));
  const cell = at && cells.find(({ id }) => id === at.id);
  const photograph = at && photographs.find(({ id }) => id === at.id);
  if (zoom === 1) return FITTED;
  if (!cell || !photograph) return { ...before, zoom };
  const step = 1 / cell.scale - before.zoom / zoom / cell.scale;
  const [dx, dy] = [at.x - cell.area.width / 2, at.y - cell.area.height / 2];
  return { zoom, x: before.x + (dx * step) / photograph.width, y: before.y + (dy * step) / photograph.height };
}

/** Moved by pixels of the screen. */
export function panned(before: LineUpView, dx: number, dy: number, [photograph]: Photographs, [cell]: readonly LineUpCell[]): LineUpView {
  if (!cell || !photograph) return before;
  const within = (v: number): number => Math.min(0.5, Math.max(-0.5, v));
  return { ...before, x: within(before.x - dx / cell.scale / photograph.width), y: within(before.y - dy / cell.scale / photograph.height) };
}
