'use client';
import { toTenth } from '@umbo/core/base';
import { findMaskOwner } from '@umbo/core/document';
import { findPart, partsAt, type OutlinePart } from '@umbo/core/mask';
import { useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import { addPart, onPart } from '../state/masks';
import type { BenchState } from '../state/benchState';
import { useBench, useBenchStore } from '../state/context';
import { usualJoin } from '../state/strokes';
import { Overlay, photoPoint, SEEN, stagePoint, type Point } from './overlay';

/** A press that moves less than this is a corner, one that moves further draws. */
const CLICK = 4;
/** Points of a drawn line are this far apart on the screen. */
const STEP = 2.5;
/** A click this near to the first corner closes the shape. */
const CLOSE = 8;
/** Corners that a shape may have. */
const MOST = 4000;

/** Adds a shape to the outline in work, or begins one. */
function addShape(state: BenchState, shape: readonly Point[]): void {
  const layer = findMaskOwner(state.committed, state.layerId);
  if (!layer) return;
  const flat = shape.slice(0, MOST).flatMap(([x, y]) => [toTenth(x), toTenth(y)]);
  const part = findPart(layer.where, state.partId);
  if (part?.kind !== 'outline' || state.joins !== null) {
    addPart(state, 'outline', { shapes: [flat], combine: state.joins ?? usualJoin(partsAt(layer.where, state.partId), false) });
    return state.set({ joins: null });
  }
  state.commit(
    `Outline on ${layer.name}`,
    onPart<OutlinePart>(layer.id, part.id, (draft) => void draft.shapes.push(flat)),
  );
}

/** Shapes by drawing around them, or corner by corner; Enter or a click on the first corner closes, Backspace takes one back. */
export function OutlineTool({ box }: { box: RefObject<HTMLElement | null> }) {
  const store = useBenchStore();
  const view = useBench((state) => state.view);
  const [corners, setCorners] = useState<Point[]>([]);
  const [pointer, setPointer] = useState<Point | null>(null);
  const held = useRef<{ x: number; y: number; begin: Point; drawn: Point[] } | null>(null);

  const close = (shape: readonly Point[]): void => {
    setCorners([]);
    if (shape.length >= 3) addShape(store.getState(), shape);
  };

  useEffect(() => {
    if (corners.length === 0) return;
    const press = (event: KeyboardEvent): void => {
      if (!['Enter', 'Escape', 'Backspace'].includes(event.key)) return;
      event.preventDefault();
      event.stopPropagation();
      if (event.key === 'Enter') close(corners);
      else setCorners(event.key === 'Escape' ? [] : corners.slice(0, -1));
    };
    addEventListener('keydown', press, true);
    return () => removeEventListener('keydown', press, true);
  });

  const down = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    box.current!.focus({ preventScroll: true });
    const begin = photoPoint(event, box.current!, view);
    held.current = { x: event.clientX, y: event.clientY, begin, drawn: [] };
  };
  const move = (event: PointerEvent): void => {
    const at = photoPoint(event, box.current!, view);
    setPointer(at);
    const now = held.current;
    if (!now) return;
    const far = Math.hypot(event.clientX - now.x, event.clientY - now.y);
    if (now.drawn.length === 0 ? far < CLICK : far < STEP) return;
    if (now.drawn.length < MOST) held.current = { ...now, x: event.clientX, y: event.clientY, drawn: [...now.drawn, at] };
  };
  const up = (event: PointerEvent): void => {
    const now = held.current;
    held.current = null;
    if (!now) return;
    // A line that was drawn joins the corners before it; alone, it is a shape.
    if (now.drawn.length > 0) {
      if (corners.length > 0) setCorners([...corners, now.begin, ...now.drawn]);
      else close([now.begin, ...now.drawn]);
      return;
    }
    const first = corners[0] && stagePoint(corners[0], view);
    const [x, y] = stagePoint(photoPoint(event, box.current!, view), view);
    if (first && corners.length > 2 && Math.hypot(first[0] - x, first[1] - y) < CLOSE) close(corners);
    else setCorners([...corners, now.begin]);
  };
  const cancel = (): void => {
    held.current = null;
    setCorners([]);
  };

  const shown = [
    ...corners,
    ...(held.current ? [held.current.begin, ...held.current.drawn] : pointer && corners.length > 0 ? [pointer] : []),
  ];
  const path = shown
    .map(
      (point, i) =>
        `${i ? 'L' : 'M'}${stagePoint(point, view)
          .map((v) => v.toFixed(1))
          .join(' ')}`,
    )
    .join('');
  return (
    <Overlay
      data-testid="outline"
      style={{ cursor: 'crosshair' }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={cancel}
      onPointerLeave={() => setPointer(null)}
      onDoubleClick={() => close(corners.slice(0, -1))}
    >
      <svg aria-hidden>
        {SEEN.map((line) => (
          <path key={line.stroke} d={path} fill="none" {...line} />
        ))}
        {corners.map((corner, i) => {
          const [cx, cy] = stagePoint(corner, view);
          return <circle key={i} cx={cx} cy={cy} r={i === 0 ? 5 : 3} fill={i === 0 ? 'none' : '#fff'} stroke="#fff" />;
        })}
      </svg>
    </Overlay>
  );
}
