'use client';
import { clamp } from '@umbo/core/base';
import { useRef, useState, type PointerEvent, type RefObject } from 'react';

/** Whether something floats over the stage, and how it is moved there by its bar. */
export function useFloating(figure: RefObject<HTMLElement | null>) {
  const [floats, setFloats] = useState(false);
  const held = useRef<{ x: number; y: number } | null>(null);
  /** Over the left of the stage at first; beside it, nothing of that is left. */
  const float = (next: boolean): void => {
    const { style } = figure.current!;
    const stage = document.querySelector('main')?.getBoundingClientRect();
    style.left = next ? `${(stage?.left ?? 0) + 16}px` : '';
    style.top = next ? `${(stage?.top ?? 0) + 44}px` : '';
    style.width = style.height = '';
    setFloats(next);
  };
  const letGo = (): void => void (held.current = null);
  const bar = {
    onPointerDown(event: PointerEvent) {
      if (!floats || (event.target as Element).closest('button')) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      const { left, top } = figure.current!.getBoundingClientRect();
      held.current = { x: event.clientX - left, y: event.clientY - top };
    },
    onPointerMove(event: PointerEvent) {
      if (!held.current) return;
      const { style, offsetWidth } = figure.current!;
      style.left = `${clamp(event.clientX - held.current.x, 40 - offsetWidth, innerWidth - 40)}px`;
      style.top = `${clamp(event.clientY - held.current.y, 0, innerHeight - 30)}px`;
    },
    onPointerUp: letGo,
    onPointerCancel: letGo,
  };
  return { floats, float, bar };
}
