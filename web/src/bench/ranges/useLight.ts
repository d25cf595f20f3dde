'use client';
import { litAbout, type LitBy } from '@umbo/core/measure';
import { useEffect, useRef, type PointerEvent } from 'react';
import type { LitUp } from '../../workers/protocol';
import { useBenchStore } from '../state/context';

/** How long the pointer rests before pixels are lit: crossing a histogram on the way to something else shows nothing. */
const REST_MS = 220;
/** To either side of the pointer, as a share of the whole range. */
const REACH = 0.02;

/** For the track of a histogram or census: what the pointer rests on is lit up on the stage. @param valueAt the measure at a share of the width */
export function useLight(of: LitUp['of'], by: LitBy, valueAt: (share: number) => number = (share) => share) {
  const store = useBenchStore();
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  /** After a press nothing is lit until the pointer comes anew: what was set is to be looked at. */
  const pressed = useRef(false);
  const end = (): void => {
    clearTimeout(timer.current);
    store.getState().setLit(null);
  };
  useEffect(() => end, []);
  return {
    onPointerMove(event: PointerEvent): void {
      // What a handle lights up while it is dragged is its own.
      if (event.buttons !== 0 || pressed.current) return clearTimeout(timer.current);
      const { left, width } = event.currentTarget.getBoundingClientRect();
      const share = (event.clientX - left) / width;
      const light = (): void => store.getState().setLit({ of, ...litAbout(by, valueAt(share), REACH) });
      if (store.getState().lit) return light();
      clearTimeout(timer.current);
      timer.current = setTimeout(light, REST_MS);
    },
    // Also where a handle keeps the press to itself.
    onPointerDownCapture(): void {
      pressed.current = true;
      end();
    },
    onPointerLeave(): void {
      pressed.current = false;
      end();
    },
  };
}

type Track = Partial<Record<'onPointerMove' | 'onPointerLeave', (event: PointerEvent) => void>>;

/** Two sets of handlers on one track. */
export function together<A extends Track, B extends Track>(a: A, b: B): A & B {
  const both = (name: keyof Track) => (event: PointerEvent) => {
    a[name]?.(event);
    b[name]?.(event);
  };
  return { ...a, ...b, onPointerMove: both('onPointerMove'), onPointerLeave: both('onPointerLeave') };
}
