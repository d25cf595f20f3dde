'use client';
import { useEffect, useLayoutEffect, useRef, type PointerEvent, type RefObject } from 'react';
import type { CellPlace } from './useLineUpView';

const idAt = (target: EventTarget): number | null =>
  Number((target as HTMLElement).closest<HTMLElement>('[data-cell]')?.dataset.cell) || null;

interface Does {
  panBy: (dx: number, dy: number) => void;
  zoomBy: (factor: number, at?: CellPlace) => void;
  /** Which photograph the pointer is on. */
  onHere: (id: number | null) => void;
}

/** Dragging moves all photographs, the wheel zooms them. @returns what listens on the grid */
export function useLineUpPointer(grid: RefObject<HTMLElement | null>, { panBy, zoomBy, onHere }: Does) {
  const drag = useRef<{ x: number; y: number } | null>(null);
  // React listens to the wheel without being able to keep the page from scrolling or zooming.
  const onWheel = useRef<(event: WheelEvent) => void>(() => undefined);
  useLayoutEffect(() => {
    onWheel.current = (event) => {
      event.preventDefault();
      const id = idAt(event.target!);
      const box = (event.target as HTMLElement).closest('[data-cell]')?.getBoundingClientRect();
      const at =
        id && box ? { id, x: (event.clientX - box.x) * devicePixelRatio, y: (event.clientY - box.y) * devicePixelRatio } : undefined;
      zoomBy(2 ** (-event.deltaY / 240), at);
    };
  });
  useEffect(() => {
    const element = grid.current!;
    const listen = (event: WheelEvent): void => onWheel.current(event);
    element.addEventListener('wheel', listen, { passive: false });
    return () => element.removeEventListener('wheel', listen);
  }, [grid]);
  return {
    onPointerDown(event: PointerEvent<HTMLElement>) {
      if (event.button !== 0) return;
      drag.current = { x: event.clientX, y: event.clientY };
    },
    onPointerMove(event: PointerEvent<HTMLElement>) {
      if (!drag.current) return onHere(idAt(event.target));
      // Not before it moves: a press that is held back from the picture is no double click on it.
      event.currentTarget.setPointerCapture(event.pointerId);
      panBy((event.clientX - drag.current.x) * devicePixelRatio, (event.clientY - drag.current.y) * devicePixelRatio);
      drag.current = { x: event.clientX, y: event.clientY };
    },
    onPointerUp: () => (drag.current = null),
    onPointerCancel: () => (drag.current = null),
    onPointerLeave: () => onHere(null),
  };
}
