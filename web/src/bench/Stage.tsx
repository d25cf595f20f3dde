'use client';
import { onLayer, type BrushPart, type Recipe, type Stroke } from '@umbo/core';
import { useEffect, useRef, useState, type PointerEvent as ReactPointerEvent } from 'react';
import styled from 'styled-components';
import { Rings } from '@/ui/Logo';
import { Button, Progress } from '@/ui/controls';
import { useBench, useBenchStore } from './context';
import { ToolBar } from './ToolBar';
import { zoomAbout } from './view';

const Box = styled.main`
  position: relative;
  overflow: hidden;
  min-width: 0;
  min-height: 0;
  background: var(--stage);
  touch-action: none;
  outline: none;
  user-select: none;
  &:focus-visible {
    outline: 2px solid var(--ink);
    outline-offset: -2px;
  }
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
  svg.ring {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
  }
`;
const Wipe = styled.div`
  position: absolute;
  top: 0;
  bottom: 0;
  width: 15px;
  margin-left: -7px;
  cursor: ew-resize;
  outline: none;
  &::before {
    content: '';
    position: absolute;
    left: 7px;
    top: 0;
    bottom: 0;
    border-left: 1px solid #fff;
    box-shadow: 0 0 0 0.5px #0008;
  }
  &::after {
    content: '‹ ›';
    position: absolute;
    top: 50%;
    left: -5px;
    width: 25px;
    height: 22px;
    border-radius: 11px;
    background: #fff;
    color: #191919;
    text-align: center;
    font: 600 12px/20px var(--sans);
    box-shadow: 0 0 0 1px #0006;
  }
  &:focus-visible::after {
    outline: 2px solid #191919;
    outline-offset: 1px;
  }
`;
const Words = styled.div`
  position: absolute;
  left: 50%;
  top: 16px;
  transform: translateX(-50%);
  max-width: 480px;
  padding: 7px 12px;
  background: var(--panel);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  display: flex;
  gap: 12px;
  align-items: center;
  min-width: 120px;
`;
const Tag = styled.span`
  position: absolute;
  top: 10px;
  padding: 1px 7px;
  background: #191919cc;
  color: #fff;
  border-radius: var(--radius);
  font-size: 11px;
`;
const Blank = styled.div`
  position: absolute;
  inset: 0;
  display: grid;
  place-items: center;
  color: #fff;
  pointer-events: none;
  svg {
    opacity: 0.5;
  }
`;

/** Points nearer than this on the screen add nothing to a stroke. */
const STEP = 0.7;
const round = (v: number): number => Math.round(v * 10) / 10;

type Gesture =
  | { kind: 'pan'; x: number; y: number; viewX: number; viewY: number }
  | { kind: 'stroke'; label: string; recipe: (points: number[]) => Recipe; points: number[]; lastX: number; lastY: number }
  | { kind: 'shape brush'; x: number; y: number; size: number; hardness: number };

/** The photograph, and what is done on it by hand. */
export function Stage() {
  const store = useBenchStore();
  const box = useRef<HTMLElement>(null);
  const place = useRef<HTMLDivElement>(null);
  const gesture = useRef<Gesture | null>(null);
  const [pointer, setPointer] = useState<{ x: number; y: number } | null>(null);
  const [spaceHeld, setSpaceHeld] = useState(false);
  const tool = useBench((state) => state.tool);
  const brush = useBench((state) => state.brush);
  const zoom = useBench((state) => state.view.zoom);
  const compare = useBench((state) => state.look.compare);
  const wipe = useBench((state) => state.look.wipe);
  const loading = useBench((state) => state.loading);
  const failure = useBench((state) => state.failure);
  const notice = useBench((state) => state.notice);
  const painted = useBench((state) => state.painted > 0);

  useEffect(() => {
    const detach = store.getState().attach(place.current!);
    const element = box.current!;
    const measure = (): void => {
      const { width, height } = element.getBoundingClientRect();
      store.getState().resize(Math.round(width * devicePixelRatio), Math.round(height * devicePixelRatio));
    };
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    // Not React's: its wheel listeners are passive.
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      const { view, setView } = store.getState();
      const [x, y] = devicePoint(event, element);
      const amount = event.deltaMode === WheelEvent.DOM_DELTA_LINE ? event.deltaY * 16 : event.deltaY;
      setView(zoomAbout(view, view.zoom * Math.exp(-amount * (event.ctrlKey ? 0.01 : 0.0015)), x, y));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    const space = (event: KeyboardEvent): void => {
      if (event.code !== 'Space' || isControl(event.target)) return;
      event.preventDefault();
      setSpaceHeld(event.type === 'keydown');
    };
    addEventListener('keydown', space);
    addEventListener('keyup', space);
    return () => {
      detach();
      observer.disconnect();
      element.removeEventListener('wheel', wheel);
      removeEventListener('keydown', space);
      removeEventListener('keyup', space);
    };
  }, [store]);

  const photoPoint = (event: { clientX: number; clientY: number }): [number, number] => {
    const [x, y] = devicePoint(event, box.current!);
    const { view } = store.getState();
    return [(x - view.x) / view.zoom, (y - view.y) / view.zoom];
  };

  const beginStroke = (event: ReactPointerEvent): void => {
    const state = store.getState();
    const layer = state.committed.layers.find(({ id }) => id === state.layerId);
    if (!layer) return;
    const brushes = layer.where.parts.filter((part): part is BrushPart => part.kind === 'brush');
    const existing = brushes.find(({ id }) => id === state.partId) ?? brushes.at(-1);
    const partId = existing?.id ?? crypto.randomUUID();
    const [x, y] = photoPoint(event);
    const style = { id: crypto.randomUUID(), ...state.brush, erase: state.tool === 'erase' };
    // Erasing with nothing painted yet means: from all of it.
    const start = style.erase ? ('full' as const) : ('empty' as const);
    const recipe = (points: number[]): Recipe =>
      onLayer(layer.id, ({ where }) => {
        let part = where.parts.find(({ id }) => id === partId) as BrushPart | undefined;
        if (!part) {
          where.parts.push({
            id: partId,
            kind: 'brush',
            on: true,
            invert: false,
            combine: where.parts.length > 0 ? 'common' : 'add',
            start,
            strokes: [],
          });
          part = where.parts.at(-1) as BrushPart;
        }
        const stroke: Stroke = { ...style, points };
        const at = part.strokes.findIndex(({ id }) => id === style.id);
        if (at < 0) part.strokes.push(stroke);
        else part.strokes[at]!.points = points;
      });
    const points = [round(x), round(y), pressure(event)];
    gesture.current = {
      kind: 'stroke',
      label: `${style.erase ? 'Erase' : 'Paint'} on ${layer.name}`,
      recipe,
      points,
      lastX: event.clientX,
      lastY: event.clientY,
    };
    if (!existing) state.select(layer.id, partId);
    state.preview(recipe([...points])); // a copy: what the document holds is frozen
  };

  const down = (event: ReactPointerEvent): void => {
    if (gesture.current || (event.button !== 0 && event.button !== 1)) return;
    const { view, tool: now, brush: shape } = store.getState();
    (event.target as Element).setPointerCapture(event.pointerId);
    box.current!.focus({ preventScroll: true });
    if (event.button === 1 || spaceHeld || now === 'move')
      gesture.current = { kind: 'pan', x: event.clientX, y: event.clientY, viewX: view.x, viewY: view.y };
    else if (event.shiftKey)
      gesture.current = { kind: 'shape brush', x: event.clientX, y: event.clientY, size: shape.size, hardness: shape.hardness };
    else beginStroke(event);
  };

  const move = (event: ReactPointerEvent): void => {
    const state = store.getState();
    const now = gesture.current;
    const rect = box.current!.getBoundingClientRect();
    if (now?.kind !== 'shape brush') setPointer({ x: event.clientX - rect.left, y: event.clientY - rect.top });
    const [px, py] = photoPoint(event);
    if (px >= 0 && py >= 0 && px < state.photograph.width && py < state.photograph.height)
      state.askProbe(px, py, devicePoint(event, box.current!));
    if (!now) return;
    if (now.kind === 'pan') {
      state.setView({
        ...state.view,
        x: now.viewX + (event.clientX - now.x) * devicePixelRatio,
        y: now.viewY + (event.clientY - now.y) * devicePixelRatio,
      });
    } else if (now.kind === 'shape brush') {
      const size = Math.max(1, now.size * Math.exp((event.clientX - now.x) / 150));
      state.setBrush({
        size: Math.min(1000, round(size)),
        hardness: Math.max(0, Math.min(1, now.hardness - (event.clientY - now.y) / 200)),
      });
    } else {
      const native = event.nativeEvent;
      const moves = native.getCoalescedEvents?.() ?? [];
      for (const point of moves.length > 0 ? moves : [native]) {
        if (Math.hypot(point.clientX - now.lastX, point.clientY - now.lastY) < STEP) continue;
        now.lastX = point.clientX;
        now.lastY = point.clientY;
        const [x, y] = photoPoint(point);
        now.points.push(round(x), round(y), pressure(point));
      }
      state.preview(now.recipe([...now.points]));
    }
  };

  const up = (): void => {
    const now = gesture.current;
    gesture.current = null;
    if (now?.kind === 'stroke') store.getState().commit(now.label, now.recipe(now.points));
  };
  const cancel = (): void => {
    if (gesture.current?.kind === 'stroke') store.getState().cancelPreview();
    gesture.current = null;
  };

  const painting = tool !== 'move' && !spaceHeld;
  const radius = (brush.size / 2) * (zoom / (typeof devicePixelRatio === 'number' ? devicePixelRatio : 1));
  return (
    <Box
      ref={box}
      tabIndex={0}
      aria-label="Photograph"
      data-painted={painted}
      style={{ cursor: painting ? 'none' : 'grab' }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={cancel}
      onPointerLeave={() => setPointer(null)}
      onKeyDown={(event) => event.key === 'Escape' && cancel()}
    >
      <div ref={place} aria-hidden />
      {!painted && !failure && (
        <Blank>
          <Rings />
        </Blank>
      )}
      {painting && pointer && (
        <svg className="ring" aria-hidden>
          <circle cx={pointer.x} cy={pointer.y} r={Math.max(1.5, radius)} fill="none" stroke="#000" strokeOpacity={0.6} strokeWidth={2.5} />
          <circle cx={pointer.x} cy={pointer.y} r={Math.max(1.5, radius)} fill="none" stroke="#fff" strokeWidth={1} />
          {brush.hardness > 0.02 && brush.hardness < 0.98 && radius > 6 && (
            <circle
              cx={pointer.x}
              cy={pointer.y}
              r={radius * brush.hardness}
              fill="none"
              stroke="#fff"
              strokeWidth={0.8}
              strokeDasharray="3 3"
            />
          )}
          {tool === 'erase' && <path d={`M${pointer.x - 4} ${pointer.y}h8`} stroke="#fff" strokeWidth={1.5} />}
        </svg>
      )}
      {compare === 'wipe' && <WipeHandle wipe={wipe} box={box} />}
      {compare !== 'after' && <Tag style={{ left: 10 }}>Before</Tag>}
      {compare === 'wipe' && <Tag style={{ right: 10 }}>After</Tag>}
      {loading !== null && (
        <Words role="status">
          Loading pixels
          <div style={{ width: 120 }}>
            <Progress label="Loading pixels" share={loading} />
          </div>
        </Words>
      )}
      {failure && <Words role="alert">{failure}</Words>}
      {notice && !failure && (
        <Words role="status" onPointerDown={(event) => event.stopPropagation()}>
          {notice} <Button onPress={() => store.getState().dismissNotice()}>Good</Button>
        </Words>
      )}
      <ToolBar />
    </Box>
  );
}

function WipeHandle({ wipe, box }: { wipe: number; box: React.RefObject<HTMLElement | null> }) {
  const store = useBenchStore();
  const set = (share: number): void => store.getState().setLook({ wipe: Math.max(0.02, Math.min(0.98, share)) });
  return (
    <Wipe
      role="slider"
      tabIndex={0}
      aria-label="Wipe between before and after"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(wipe * 100)}
      style={{ left: `${wipe * 100}%` }}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        event.stopPropagation();
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
        const { left, width } = box.current!.getBoundingClientRect();
        set((event.clientX - left) / width);
      }}
      onKeyDown={(event) => {
        const by = event.key === 'ArrowLeft' ? -0.01 : event.key === 'ArrowRight' ? 0.01 : 0;
        if (by !== 0) set(wipe + by * (event.shiftKey ? 10 : 1));
      }}
    />
  );
}

/** A mouse has no pressure of its own; browsers report a half for it. */
const pressure = (event: { pointerType: string; pressure: number }): number =>
  event.pointerType === 'pen' ? Math.round(event.pressure * 100) / 100 : 1;

function devicePoint(event: { clientX: number; clientY: number }, element: HTMLElement): [number, number] {
  const { left, top } = element.getBoundingClientRect();
  return [(event.clientX - left) * devicePixelRatio, (event.clientY - top) * devicePixelRatio];
}

/** Whether a key belongs to the control that has the focus. */
export function isControl(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    target.closest(
      'input, button, select, textarea, [role=slider], [role=menu], [role=listbox], [role=dialog], [role=option], [role=alertdialog]',
    ) !== null
  );
}
