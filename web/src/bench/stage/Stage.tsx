'use client';
import { toTenth, type Rect } from '@umbo/core/base';
import { findLayer, findMaskOwner, type Recipe } from '@umbo/core/document';
import type { Stroke } from '@umbo/core/mask';
import { useEffect, useRef, useState, type PointerEvent as ReactPointerEvent, type ReactNode } from 'react';
import styled from 'styled-components';
import { Rings } from '@/ui/Logo';
import { takesFromBelow } from '../state/actions';
import { useBench, useBenchStore } from '../state/context';
import { Magnifier } from './Magnifier';
import { drawnKinds } from './offeredTools';
import { onPhotograph, SEEN, stageLength, stagePoint as placeOnStage } from './overlay';
import { PeekNote } from './PeekNote';
import { DrawTool } from './DrawTool';
import { HealthMarks } from './HealthMarks';
import { SEED_SIZE, seedSize, SeedStrokes } from './SeedStrokes';
import { CropTool } from './CropTool';
import { CompareTags } from './CompareTags';
import { Notices } from './Notices';
import { OutlineTool } from './OutlineTool';
import { PullTool } from './PullTool';
import { RegionTool } from './RegionTool';
import { isControl } from './isControl';
import { ReadingRings } from './ReadingRings';
import { ReadTool } from './ReadTool';
import { keptPlace } from '../state/neighbours';
import { applySample, sampleArea } from '../state/samples';
import { StageHandles } from './StageHandles';
import { TakeTool } from './TakeTool';
import { strokeRecipe, strokesAreSeeds, strokeTarget } from '../state/strokes';
import { WipeHandle } from './WipeHandle';
import { besideShift } from '../../workers/protocol';
import { zoomAbout } from '../state/view';

const Box = styled.main`
  position: relative;
  container-type: inline-size;
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
/** Numbers that one stroke may hold; a longer one goes on as another. */
const STROKE_NUMBERS = 60_000;
type Gesture =
  | { kind: 'pan'; x: number; y: number; viewX: number; viewY: number }
  | {
      kind: 'stroke';
      label: string;
      recipe: (points: number[]) => Recipe;
      show: (points: number[]) => void;
      points: number[];
      lastX: number;
      lastY: number;
    }
  | { kind: 'sample'; from: [number, number] }
  | { kind: 'shape brush'; x: number; y: number; size: number; hardness: number };

/** The photograph, and what is done on it by hand. @param children what lies over it */
export function Stage({ children }: { children: ReactNode }) {
  const store = useBenchStore();
  const box = useRef<HTMLElement>(null);
  const place = useRef<HTMLDivElement>(null);
  const gesture = useRef<Gesture | null>(null);
  const [pointer, setPointer] = useState<{ x: number; y: number } | null>(null);
  const [spaceHeld, setSpaceHeld] = useState(false);
  const [sampled, setSampled] = useState<Rect | null>(null);
  const [seed, setSeed] = useState<Stroke | null>(null);
  const tool = useBench((state) => state.tool);
  const brush = useBench((state) => state.brush);
  const view = useBench((state) => state.view);
  const compare = useBench((state) => state.look.compare);
  const wipe = useBench((state) => state.look.wipe);
  const failure = useBench((state) => state.failure);
  const painted = useBench((state) => state.painted > 0);
  const seeds = useBench(strokesAreSeeds);

  useEffect(() => {
    const detach = store.getState().attach(place.current!);
    const element = box.current!;
    const measure = (): void => {
      const { width, height } = element.getBoundingClientRect();
      store.getState().resize(Math.round(width * devicePixelRatio), Math.round(height * devicePixelRatio));
    };
    // Whoever comes from another photograph of the shoot stays at the place and the zoom.
    measure();
    const { width, height } = element.getBoundingClientRect();
    const kept = keptPlace(store.getState(), { width: width * devicePixelRatio, height: height * devicePixelRatio });
    if (kept) store.getState().setView(kept);
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    // Not React's: its wheel listeners are passive.
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      const { view, setView } = store.getState();
      const [x, y] = stagePoint(event);
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

  /** Where a pointer is in the picture, in device pixels of the stage; beside each other, both pictures are moved. */
  function stagePoint(event: { clientX: number; clientY: number }): [number, number] {
    const [x, y] = devicePoint(event, box.current!);
    if (store.getState().look.compare !== 'beside') return [x, y];
    const width = Math.round(box.current!.getBoundingClientRect().width * devicePixelRatio);
    return [x + (x < width / 2 ? 1 : -1) * besideShift(width), y];
  }
  const photoPoint = (event: { clientX: number; clientY: number }): [number, number] => {
    return onPhotograph(stagePoint(event), store.getState().view);
  };

  const beginStroke = (event: { clientX: number; clientY: number; pointerType: string; pressure: number }): void => {
    const state = store.getState();
    const layer = findMaskOwner(state.committed, state.layerId);
    if (!layer) return;
    const erase = state.tool === 'erase';
    const target = strokeTarget(layer, state.partId, erase, state.joins, (id) => findMaskOwner(state.committed, id));
    const [x, y] = photoPoint(event);
    const seeds = strokesAreSeeds(state);
    const { alike, ...shape } = seeds ? { ...state.brush, size: seedSize(state.view) } : state.brush;
    const style = { id: crypto.randomUUID(), ...shape, erase };
    const recipe = (points: number[]): Recipe => strokeRecipe(target, { ...style, points }, state.paintColour, alike);
    const points = [toTenth(x), toTenth(y), pressure(event)];
    // What grows from a stroke is found when it has ended; until then the stroke itself is seen.
    const show = seeds
      ? (points: number[]) => setSeed({ ...style, points })
      : (points: number[]) => store.getState().preview(recipe(points));
    const words = seeds ? (erase ? 'Stroke outside' : 'Stroke inside') : erase ? 'Erase' : 'Paint';
    gesture.current = {
      kind: 'stroke',
      label: `${words} on ${target.layer.name}`,
      recipe,
      show,
      points,
      lastX: event.clientX,
      lastY: event.clientY,
    };
    if (target.isNew) state.select(layer.id, target.partId);
    // A brush of its own is begun by one stroke; the next ones go on in it.
    state.set({ joins: null });
    show([...points]); // a copy: what the document holds is frozen
  };

  const takeSample = (from: [number, number], to: [number, number]): void => {
    const state = store.getState();
    const area = sampleArea(state.sampleSize, from, to, state.photograph);
    if (area.width < 1 || area.height < 1) return;
    const layer = findLayer(state.committed, state.layerId);
    const below = layer && takesFromBelow(layer.what) ? layer.id : null;
    state.askSample(area, below).then(
      (colour) => applySample(store.getState(), colour, true),
      (error: Error) => store.getState().set({ notice: error.message }),
    );
  };

  const down = (event: ReactPointerEvent): void => {
    if (gesture.current || (event.button !== 0 && event.button !== 1)) return;
    const { view, tool: now, brush: shape } = store.getState();
    (event.target as Element).setPointerCapture(event.pointerId);
    box.current!.focus({ preventScroll: true });
    if (event.button === 1 || spaceHeld || now === 'move' || now === 'read')
      gesture.current = { kind: 'pan', x: event.clientX, y: event.clientY, viewX: view.x, viewY: view.y };
    else if (now === 'sample') {
      const from = photoPoint(event);
      gesture.current = { kind: 'sample', from };
      setSampled(sampleArea(store.getState().sampleSize, from, from, store.getState().photograph));
    } else if (event.shiftKey && !seeds)
      gesture.current = { kind: 'shape brush', x: event.clientX, y: event.clientY, size: shape.size, hardness: shape.hardness };
    else beginStroke(event);
  };

  const move = (event: ReactPointerEvent): void => {
    const state = store.getState();
    const now = gesture.current;
    const rect = box.current!.getBoundingClientRect();
    if (now?.kind !== 'shape brush') setPointer({ x: event.clientX - rect.left, y: event.clientY - rect.top });
    const [px, py] = photoPoint(event);
    if (px >= 0 && py >= 0 && px < state.photograph.width && py < state.photograph.height) state.askProbe(px, py, stagePoint(event));
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
        size: Math.min(1000, toTenth(size)),
        hardness: Math.max(0, Math.min(1, now.hardness - (event.clientY - now.y) / 200)),
      });
    } else if (now.kind === 'sample') {
      setSampled(sampleArea(state.sampleSize, now.from, [px, py], state.photograph));
    } else {
      const native = event.nativeEvent;
      const moves = native.getCoalescedEvents?.() ?? [];
      let stroke = now;
      for (const point of moves.length > 0 ? moves : [native]) {
        if (Math.hypot(point.clientX - stroke.lastX, point.clientY - stroke.lastY) < STEP) continue;
        if (stroke.points.length + 3 > STROKE_NUMBERS) {
          state.commit(stroke.label, stroke.recipe(stroke.points));
          beginStroke(point);
          stroke = gesture.current as typeof now;
          continue;
        }
        stroke.lastX = point.clientX;
        stroke.lastY = point.clientY;
        const [x, y] = photoPoint(point);
        stroke.points.push(toTenth(x), toTenth(y), pressure(point));
      }
      stroke.show([...stroke.points]);
    }
  };

  const up = (event: ReactPointerEvent): void => {
    const now = gesture.current;
    gesture.current = null;
    if (now?.kind === 'sample') {
      setSampled(null);
      takeSample(now.from, photoPoint(event));
    }
    if (now?.kind === 'stroke') store.getState().commit(now.label, now.recipe(now.points));
    setSeed(null);
  };
  const cancel = (): void => {
    if (gesture.current?.kind === 'stroke') store.getState().cancelPreview();
    gesture.current = null;
    setSampled(null);
    setSeed(null);
  };

  const drawn = drawnKinds.find(({ kind }) => tool === `draw ${kind}`);
  const painting = (tool === 'paint' || tool === 'erase') && !spaceHeld;
  // The server draws the page, too, and knows no stage.
  const radius = seeds ? SEED_SIZE / 2 : typeof devicePixelRatio === 'number' ? stageLength(brush.size / 2, view) : 0;
  return (
    <Box
      ref={box}
      tabIndex={0}
      aria-label="Photograph"
      data-painted={painted}
      style={{ cursor: painting ? 'none' : tool === 'sample' && !spaceHeld ? 'crosshair' : 'grab' }}
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
          {!seeds && brush.hardness > 0.02 && brush.hardness < 0.98 && radius > 6 && (
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
      {painted && <ReadingRings />}
      {painted && compare !== 'beside' && (
        <>
          <HealthMarks />
          <SeedStrokes drawing={seed} />
          {tool === 'move' && <StageHandles box={box} />}
          {!spaceHeld && tool === 'crop' && <CropTool box={box} />}
          {!spaceHeld && (tool === 'catch' || tool === 'leave') && <TakeTool box={box} leaveOut={tool === 'leave'} />}
          {!spaceHeld && tool === 'read' && <ReadTool box={box} />}
          {!spaceHeld && tool === 'pull' && <PullTool box={box} />}
          {!spaceHeld && tool === 'outline' && <OutlineTool box={box} />}
          {!spaceHeld && drawn && <DrawTool kind={drawn.kind} box={box} />}
          {!spaceHeld && tool === 'region' && <RegionTool box={box} />}
        </>
      )}
      {sampled && <SampleFrame area={sampled} />}
      {tool === 'sample' && pointer && !spaceHeld && <Magnifier at={pointer} box={box} />}
      <CompareTags />
      <PeekNote />
      <Notices />
      {children}
    </Box>
  );
}

function SampleFrame({ area }: { area: Rect }) {
  const view = useBench((state) => state.view);
  // Never smaller than is seen.
  const least = 3 / stageLength(1, view);
  const [right, bottom] = [area.x + Math.max(least, area.width), area.y + Math.max(least, area.height)];
  const corners = [
    [area.x, area.y],
    [right, area.y],
    [right, bottom],
    [area.x, bottom],
  ] as const;
  const points = corners.map(([x, y]) => placeOnStage([x, y], view).join(',')).join(' ');
  return (
    <svg className="ring" aria-hidden>
      {SEEN.map((line) => (
        <polygon key={line.stroke} points={points} fill="none" {...line} />
      ))}
    </svg>
  );
}

/** A mouse has no pressure of its own; browsers report a half for it. */
const pressure = (event: { pointerType: string; pressure: number }): number =>
  event.pointerType === 'pen' ? Math.round(event.pressure * 100) / 100 : 1;

function devicePoint(event: { clientX: number; clientY: number }, element: HTMLElement): [number, number] {
  const { left, top } = element.getBoundingClientRect();
  return [(event.clientX - left) * devicePixelRatio, (event.clientY - top) * devicePixelRatio];
}
