'use client';
import type { Rect } from '@umbo/core/base';
import type { Stroke } from '@umbo/core/mask';
import { useRef, useState, type MouseEvent, type PointerEvent as ReactPointerEvent, type ReactNode, type RefObject } from 'react';
import styled from 'styled-components';
import { Rings } from '@/ui/Logo';
import { useBench, useBenchStore } from '../state/context';
import { strokesAreSeeds } from '../state/strokes';
import { zoomAbout } from '../state/view';
import { BrushRing } from './BrushRing';
import { CompareTags } from './CompareTags';
import { CropTool } from './CropTool';
import { DrawTool } from './DrawTool';
import { takeDropped } from './droppedFiles';
import { brushGesture, panGesture, sampleGesture, strokeGesture, type Gesture } from './gestures';
import { HealthMarks } from './HealthMarks';
import { Magnifier } from './Magnifier';
import { Notices } from './Notices';
import { drawnKinds } from './offeredTools';
import { OutlineTool } from './OutlineTool';
import { onPhotograph, SEEN, stageLength, stagePoint as placeOnStage } from './overlay';
import { PeekNote } from './PeekNote';
import { PullTool } from './PullTool';
import { ReadingRings } from './ReadingRings';
import { ReadTool } from './ReadTool';
import { RegionTool } from './RegionTool';
import { SeedStrokes } from './SeedStrokes';
import { StageHandles } from './StageHandles';
import { StageMenu } from './StageMenu';
import { TakeTool } from './TakeTool';
import { stagePoint, useSpaceHeld, useStage } from './useStage';
import { WipeHandle } from './WipeHandle';

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

/** The photograph, and what is done on it by hand. @param children what lies over it */
export function Stage({ children }: { children: ReactNode }) {
  const store = useBenchStore();
  const box = useRef<HTMLElement>(null);
  const canvas = useRef<HTMLDivElement>(null);
  const gesture = useRef<Gesture | null>(null);
  const [pointer, setPointer] = useState<{ x: number; y: number } | null>(null);
  const [sampled, showSampled] = useState<Rect | null>(null);
  const [seed, showSeed] = useState<Stroke | null>(null);
  const tool = useBench((state) => state.tool);
  const compare = useBench((state) => state.look.compare);
  const wipe = useBench((state) => state.look.wipe);
  const failure = useBench((state) => state.failure);
  const painted = useBench((state) => state.painted > 0);
  const spaceHeld = useSpaceHeld();
  useStage(store, box, canvas);

  const photoPoint = (at: { clientX: number; clientY: number }): [number, number] =>
    onPhotograph(stagePoint(store, box.current!, at), store.getState().view);

  const down = (event: ReactPointerEvent): void => {
    if (gesture.current || (event.button !== 0 && event.button !== 1)) return;
    (event.target as Element).setPointerCapture(event.pointerId);
    box.current!.focus({ preventScroll: true });
    const ground = { store, photoPoint, showSampled, showSeed };
    const state = store.getState();
    if (event.button === 1 || spaceHeld || state.tool === 'move' || state.tool === 'read') gesture.current = panGesture(ground, event);
    else if (state.tool === 'sample') gesture.current = sampleGesture(ground, event);
    else if (event.shiftKey && !strokesAreSeeds(state)) gesture.current = brushGesture(ground, event);
    else gesture.current = strokeGesture(ground, event);
  };
  const move = (event: ReactPointerEvent): void => {
    const { photograph, askProbe } = store.getState();
    const rect = box.current!.getBoundingClientRect();
    if (!gesture.current?.holdsRing) setPointer({ x: event.clientX - rect.left, y: event.clientY - rect.top });
    const [px, py] = photoPoint(event);
    if (px >= 0 && py >= 0 && px < photograph.width && py < photograph.height) askProbe(px, py, stagePoint(store, box.current!, event));
    const native = event.nativeEvent;
    const moves = native.getCoalescedEvents?.() ?? [];
    gesture.current?.move(moves.length > 0 ? moves : [native]);
  };
  const up = (event: ReactPointerEvent): void => {
    gesture.current?.end(event);
    gesture.current = null;
  };
  const cancel = (): void => {
    gesture.current?.cancel();
    gesture.current = null;
  };

  /** With the hand, twice on a place shows it at 100 %, and all of the photograph again. */
  const nearOrFit = (event: MouseEvent): void => {
    const { view, fitted, tool: inHand, setView, fitView } = store.getState();
    if (inHand !== 'move') return;
    if (fitted) setView(zoomAbout(view, 1, ...stagePoint(store, box.current!, event)));
    else fitView();
  };

  const painting = (tool === 'paint' || tool === 'erase') && !spaceHeld;
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
      onDoubleClick={nearOrFit}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void takeDropped(store, [...event.dataTransfer.files]);
      }}
      onKeyDown={(event) => event.key === 'Escape' && cancel()}
    >
      <div ref={canvas} aria-hidden />
      {!painted && !failure && (
        <Blank>
          <Rings />
        </Blank>
      )}
      {painting && pointer && <BrushRing at={pointer} />}
      {compare === 'wipe' && <WipeHandle wipe={wipe} box={box} />}
      {painted && <ReadingRings />}
      {painted && compare !== 'beside' && (
        <>
          <HealthMarks />
          <SeedStrokes drawing={seed} />
          {tool === 'move' && <StageHandles box={box} />}
          {!spaceHeld && <ToolInHand box={box} />}
        </>
      )}
      {sampled && <SampleFrame area={sampled} />}
      {tool === 'sample' && pointer && !spaceHeld && <Magnifier at={pointer} box={box} />}
      <CompareTags />
      <PeekNote />
      <StageMenu box={box} />
      <Notices />
      {children}
    </Box>
  );
}

/** What is drawn and taken hold of with the tool in hand. */
function ToolInHand({ box }: { box: RefObject<HTMLElement | null> }) {
  const tool = useBench((state) => state.tool);
  const drawn = drawnKinds.find(({ kind }) => tool === `draw ${kind}`);
  if (drawn) return <DrawTool kind={drawn.kind} box={box} />;
  if (tool === 'crop') return <CropTool box={box} />;
  if (tool === 'catch' || tool === 'leave') return <TakeTool box={box} leaveOut={tool === 'leave'} />;
  if (tool === 'read') return <ReadTool box={box} />;
  if (tool === 'pull') return <PullTool box={box} />;
  if (tool === 'outline') return <OutlineTool box={box} />;
  if (tool === 'region') return <RegionTool box={box} />;
  return null;
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
