'use client';
import { useEffect, useState, type RefObject } from 'react';
import { besideShift } from '../../workers/protocol';
import type { BenchStore } from '../state/benchState';
import { keptPlace } from '../state/neighbours';
import { zoomAbout } from '../state/view';
import { isControl } from './isControl';

/** Where a pointer is in the picture, in device pixels of the stage; beside each other, both pictures are moved. */
export function stagePoint(
  store: BenchStore,
  stage: HTMLElement,
  { clientX, clientY }: { clientX: number; clientY: number },
): [number, number] {
  const { left, top, width: shown } = stage.getBoundingClientRect();
  const [x, y] = [(clientX - left) * devicePixelRatio, (clientY - top) * devicePixelRatio];
  if (store.getState().look.compare !== 'beside') return [x, y];
  const width = Math.round(shown * devicePixelRatio);
  return [x + (x < width / 2 ? 1 : -1) * besideShift(width), y];
}

/** Gives the engine its canvas, its size and the wheel. @param canvas where the canvas goes */
export function useStage(store: BenchStore, box: RefObject<HTMLElement | null>, canvas: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const detach = store.getState().attach(canvas.current!);
    const element = box.current!;
    const size = (): { width: number; height: number } => {
      const { width, height } = element.getBoundingClientRect();
      return { width: width * devicePixelRatio, height: height * devicePixelRatio };
    };
    const measure = (): void => {
      const { width, height } = size();
      store.getState().resize(Math.round(width), Math.round(height));
    };
    // Whoever comes from another photograph of the shoot stays at the place and the zoom.
    measure();
    const kept = keptPlace(store.getState(), size());
    if (kept) store.getState().setView(kept);
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    // Not React's: its wheel listeners are passive.
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      const { view, setView } = store.getState();
      const [x, y] = stagePoint(store, element, event);
      const amount = event.deltaMode === WheelEvent.DOM_DELTA_LINE ? event.deltaY * 16 : event.deltaY;
      setView(zoomAbout(view, view.zoom * Math.exp(-amount * (event.ctrlKey ? 0.01 : 0.0015)), x, y));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => {
      detach();
      observer.disconnect();
      element.removeEventListener('wheel', wheel);
    };
  }, [store, box, canvas]);
}

/** Whether Space is held, which moves the picture whatever tool is in hand. */
export function useSpaceHeld(): boolean {
  const [isHeld, setHeld] = useState(false);
  useEffect(() => {
    const hear = (event: KeyboardEvent): void => {
      if (event.code !== 'Space' || isControl(event.target)) return;
      event.preventDefault();
      setHeld(event.type === 'keydown');
    };
    addEventListener('keydown', hear);
    addEventListener('keyup', hear);
    return () => {
      removeEventListener('keydown', hear);
      removeEventListener('keyup', hear);
    };
  }, []);
  return isHeld;
}
