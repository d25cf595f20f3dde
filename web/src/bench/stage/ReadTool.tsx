'use client';
import { useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import type { BenchState } from '../state/benchState';
import { useBench, useBenchStore } from '../state/context';
import { addEllipse, addOutline, addSpot, findReading, movedBy, readingsOf, removeReading } from '../state/readings';
import { Overlay, photoPoint, SEEN, stagePoint, type Point } from './overlay';
import { isControl } from './isControl';
import { letterAt, markOf } from './ReadingRings';

/** A press that moves less than this on the screen is a click. */
const CLICK = 5;
/** A reading is taken hold of this near to its letter, or to a spot's middle. */
const NEAR = 11;
/** Points of an outline are this far apart on the screen, and no more than so many. */
const STEP = 4;
const MOST = 2000;

type Held =
  | { kind: 'move'; id: string; letter: string; from: Point; x: number; y: number }
  | { kind: 'draw'; outline: boolean; points: Point[]; x: number; y: number; lastX: number; lastY: number };

/** The reading that is under the pointer. */
function readingUnder(state: BenchState, stage: HTMLElement, event: { clientX: number; clientY: number }): string | null {
  const { left, top } = stage.getBoundingClientRect();
  const [x, y] = [event.clientX - left, event.clientY - top];
  const near = ([px, py]: Point): boolean => Math.hypot(px - x, py - y) < NEAR;
  const found = readingsOf(state).findLast((reading) => {
    const mark = markOf(reading, state.document, state.thumbnails.masks.get(reading.id) ?? null);
    return mark && (near(letterAt(mark, reading, state.view)) || (reading.spot !== undefined && near(stagePoint(mark.at, state.view))));
  });
  return found?.id ?? null;
}

/** The ellipse or the outline that is being drawn. */
function Drawn({ outline, points }: { outline: boolean; points: readonly Point[] }) {
  const view = useBench((state) => state.view);
  const shown = points.map((point) => stagePoint(point, view));
  const [first, last] = [shown[0], shown.at(-1)];
  if (!first || !last) return null;
  return (
    <svg aria-hidden>
      {SEEN.map((line) =>
        outline ? (
          <path key={line.stroke} d={`M${shown.map((point) => point.join(' ')).join('L')}`} fill="none" {...line} />
        ) : (
          <ellipse
            key={line.stroke}
            cx={(first[0] + last[0]) / 2}
            cy={(first[1] + last[1]) / 2}
            rx={Math.abs(last[0] - first[0]) / 2}
            ry={Math.abs(last[1] - first[1]) / 2}
            fill="none"
            {...line}
          />
        ),
      )}
    </svg>
  );
}

/** Pins readings: a click a spot, a drag an ellipse, with Shift an outline. Those that are there are moved by a drag. */
export function ReadTool({ box }: { box: RefObject<HTMLElement | null> }) {
  const store = useBenchStore();
  const view = useBench((state) => state.view);
  const held = useRef<Held | null>(null);
  const [drawing, setDrawing] = useState<{ outline: boolean; points: readonly Point[] } | null>(null);

  const under = (event: { clientX: number; clientY: number }): string | null => readingUnder(store.getState(), box.current!, event);
  const down = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    box.current!.focus({ preventScroll: true });
    const at = photoPoint(event, box.current!, view);
    const place = { x: event.clientX, y: event.clientY };
    const reading = findReading(store.getState(), under(event));
    if (reading) {
      store.getState().openReading(reading.id);
      // A reading of a region is where the region is.
      if (reading.where?.link === undefined) held.current = { kind: 'move', id: reading.id, letter: reading.letter, from: at, ...place };
      return;
    }
    held.current = { kind: 'draw', outline: event.shiftKey, points: [at], ...place, lastX: place.x, lastY: place.y };
  };
  const move = (event: PointerEvent): void => {
    const now = held.current;
    if (!now) return store.getState().lightReading(under(event));
    const at = photoPoint(event, box.current!, view);
    if (now.kind === 'move') {
      if (Math.hypot(event.clientX - now.x, event.clientY - now.y) >= CLICK)
        store.getState().preview(movedBy(now.id, at[0] - now.from[0], at[1] - now.from[1]));
      return;
    }
    if (Math.hypot(event.clientX - now.lastX, event.clientY - now.lastY) < STEP || now.points.length >= MOST) return;
    held.current = { ...now, points: now.outline ? [...now.points, at] : [now.points[0]!, at], lastX: event.clientX, lastY: event.clientY };
    setDrawing({ outline: now.outline, points: held.current.points });
  };
  const up = (event: PointerEvent): void => {
    const now = held.current;
    held.current = null;
    setDrawing(null);
    if (!now) return;
    const state = store.getState();
    const at = photoPoint(event, box.current!, view);
    const moved = Math.hypot(event.clientX - now.x, event.clientY - now.y) >= CLICK;
    if (now.kind === 'move') {
      state.cancelPreview();
      if (moved) state.commit(`Reading ${now.letter} moved`, movedBy(now.id, at[0] - now.from[0], at[1] - now.from[1]));
    } else if (!moved && now.points.length < 3) {
      const { width, height } = state.photograph;
      if (at[0] >= 0 && at[1] >= 0 && at[0] < width && at[1] < height) addSpot(state, at[0], at[1]);
    } else if (now.outline) addOutline(state, now.points);
    else addEllipse(state, now.points[0]!, at);
  };
  const cancel = (): void => {
    if (held.current?.kind === 'move') store.getState().cancelPreview();
    held.current = null;
    setDrawing(null);
  };
  // The reading that is open goes with Delete, while readings are what is worked on.
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      const state = store.getState();
      if (event.key === 'Escape' && held.current) return cancel();
      const reading = findReading(state, state.readingId);
      if (event.key !== 'Delete' || !reading || isControl(event.target)) return;
      event.preventDefault();
      event.stopPropagation();
      removeReading(state, reading);
    };
    addEventListener('keydown', press, true);
    return () => removeEventListener('keydown', press, true);
  });
  return (
    <Overlay
      data-testid="read"
      style={{ cursor: 'crosshair' }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={cancel}
      onPointerLeave={() => store.getState().lightReading(null)}
    >
      {drawing && <Drawn outline={drawing.outline} points={drawing.points} />}
    </Overlay>
  );
}
