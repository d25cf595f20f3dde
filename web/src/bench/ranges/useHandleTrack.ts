'use client';
import { useRef, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';

/** A place on a track: shares of its width, from the left, and of its height, from the bottom; beyond 0..1 outside. */
export interface TrackPlace {
  readonly x: number;
  readonly y: number;
  /** How far outside the track, in CSS pixels; 0 on it. */
  readonly outside: number;
}

interface Moves<H> {
  /** A handle is taken hold of. */
  begin?: (handle: H, at: TrackPlace) => void;
  drag: (handle: H, to: TrackPlace) => void;
  /** Let go of after it was dragged. */
  drop: (handle: H) => void;
  /** Let go of without having been dragged ('still'), or taken away from whoever dragged it. */
  cancel: (why: 'still' | 'taken') => void;
  /** An arrow key: so many steps to the right and upwards, ten with Shift, a tenth with Alt. */
  step?: (handle: H, right: number, up: number) => void;
}

const ARROWS: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };

/** Handles on a track: dragged with the pointer, moved by the arrow keys. */
export function useHandleTrack<H>(box: RefObject<Element | null>, { begin, drag, drop, cancel, step }: Moves<H>) {
  const held = useRef<{ handle: H; isDragged: boolean } | null>(null);
  const placeOf = ({ clientX, clientY }: PointerEvent): TrackPlace => {
    const { left, top, width, height } = box.current!.getBoundingClientRect();
    const [x, y] = [clientX - left, clientY - top];
    return { x: x / width, y: 1 - y / height, outside: Math.max(0, -x, -y, x - width, y - height) };
  };
  return {
    placeOf,
    /** For a handle's `onPointerDown`, or for one that comes into being under the pointer. */
    grab: (handle: H) => (event: PointerEvent) => {
      if (event.button !== 0) return;
      event.stopPropagation();
      (event.target as Element).setPointerCapture(event.pointerId);
      held.current = { handle, isDragged: false };
      begin?.(handle, placeOf(event));
    },
    /** For the track itself. */
    track: {
      onPointerMove(event: PointerEvent) {
        if (!held.current) return;
        held.current.isDragged = true;
        drag(held.current.handle, placeOf(event));
      },
      onPointerUp() {
        const now = held.current;
        held.current = null;
        if (now?.isDragged) drop(now.handle);
        else if (now) cancel('still');
      },
      onPointerCancel() {
        if (held.current) cancel('taken');
        held.current = null;
      },
    },
    /** For a handle's `onKeyDown`. */
    keys: (handle: H) => (event: KeyboardEvent) => {
      const arrow = ARROWS[event.key];
      if (!arrow || !step) return;
      event.preventDefault();
      event.stopPropagation();
      const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
      step(handle, arrow[0] * size, arrow[1] * size);
    },
  };
}
