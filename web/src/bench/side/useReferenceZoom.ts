'use client';
import { clamp } from '@umbo/core/base';
import { useEffect, useRef, useState, type RefObject } from 'react';

/** Shares of the place's width that the picture takes: 1 fits. */
const [LEAST, MOST] = [1, 16];

/** A zoom of its own, by the wheel with Ctrl as well. @param view what scrolls */
export function useReferenceZoom(view: RefObject<HTMLElement | null>) {
  const [zoom, setZoom] = useState(1);
  /** Another zoom, with what is under a place of the view staying there. */
  const zoomTo = (next: number, x = view.current!.clientWidth / 2, y = view.current!.clientHeight / 2): void => {
    const box = view.current!;
    const [u, v] = [(box.scrollLeft + x) / box.scrollWidth, (box.scrollTop + y) / box.scrollHeight];
    setZoom(clamp(next, LEAST, MOST));
    requestAnimationFrame(() => box.scrollTo(u * box.scrollWidth - x, v * box.scrollHeight - y));
  };
  // React's wheel listeners are passive: the page must not zoom when the picture does.
  const latest = useRef({ zoom, zoomTo });
  latest.current = { zoom, zoomTo };
  useEffect(() => {
    const box = view.current!;
    const wheel = (event: WheelEvent): void => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      const { left, top } = box.getBoundingClientRect();
      latest.current.zoomTo(latest.current.zoom * Math.exp(-event.deltaY / 300), event.clientX - left, event.clientY - top);
    };
    box.addEventListener('wheel', wheel, { passive: false });
    return () => box.removeEventListener('wheel', wheel);
  }, [view]);
  return { zoom, zoomTo };
}
