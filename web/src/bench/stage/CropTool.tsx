'use client';
import type { Rect } from '@umbo/core/base';
import { type Place } from '@umbo/core/geometry';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { cropIn, draggedCrop, geometryOf, levelBy, outlineIn, ratioOf, setCrop, setLine, uprightBy, type Grip } from '../state/cropping';
import { useBench, useBenchStore } from '../state/context';
import { shownOfPlane } from '../state/view';
import { Overlay, photoPoint, SEEN, stagePoint, type Point } from './overlay';

const Held = styled.button`
  position: absolute;
  width: 13px;
  height: 13px;
  margin: -6.5px;
  padding: 0;
  border: 2px solid #fff;
  border-radius: 2px;
  background: #191919;
  box-shadow: 0 0 0 1px #000;
  touch-action: none;
  &:focus-visible {
    outline: 2px solid #fff;
    outline-offset: 2px;
  }
`;
const Frame = styled.div`
  position: absolute;
  cursor: move;
  touch-action: none;
  outline: none;
  &:focus-visible {
    box-shadow: 0 0 0 2px #fff;
  }
`;
const Apply = styled.div`
  position: absolute;
  left: 50%;
  top: 10px;
  transform: translateX(-50%);
  display: flex;
  gap: 6px;
`;

const GRIPS: readonly (readonly [string, Grip, string])[] = [
  ['Top left', [-1, -1], 'nwse-resize'],
  ['Top', [0, -1], 'ns-resize'],
  ['Top right', [1, -1], 'nesw-resize'],
  ['Right', [1, 0], 'ew-resize'],
  ['Bottom right', [1, 1], 'nwse-resize'],
  ['Bottom', [0, 1], 'ns-resize'],
  ['Bottom left', [-1, 1], 'nesw-resize'],
  ['Left', [-1, 0], 'ew-resize'],
];
const WHOLE: Grip = [0, 0];
const ARROWS: Readonly<Record<string, Point>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

type Box = RefObject<HTMLElement | null>;

/** The frame of the crop over all of the photograph, and what is drawn to straighten it. */
export function CropTool({ box }: { box: Box }) {
  const hand = useBench((state) => state.cropping.hand);
  return (
    <>
      <CropFrame box={box} />
      {hand === 'line' && <LevelLine box={box} />}
      {hand === 'corners' && <Corners box={box} />}
    </>
  );
}

function CropFrame({ box }: { box: Box }) {
  const store = useBenchStore();
  const view = useBench((state) => state.view);
  const document = useBench((state) => state.document);
  const cropping = useBench((state) => state.cropping);
  const held = useRef<{ grip: Grip; start: Rect; from: Point } | null>(null);
  const turned = useRef<{ angle: number; from: number; middle: Point } | null>(null);
  const frame = useRef<HTMLDivElement>(null);
  // The arrow keys are the frame's from the beginning.
  useEffect(() => frame.current?.focus({ preventScroll: true }), []);
  const done = (event: KeyboardEvent): void => {
    if (event.key !== 'Enter' && event.key !== 'Escape') return;
    if (held.current || turned.current) {
      held.current = turned.current = null;
      return store.getState().cancelPreview();
    }
    store.getState().set({ tool: 'move' });
    box.current!.focus({ preventScroll: true });
  };

  const crop = cropIn(document);
  const shown = shownOfPlane(store.getState());
  const perPixel = view.zoom / (globalThis.devicePixelRatio || 1);
  const at = (x: number, y: number): Point => [
    view.x / (globalThis.devicePixelRatio || 1) + (x - shown.x) * perPixel,
    view.y / (globalThis.devicePixelRatio || 1) + (y - shown.y) * perPixel,
  ];
  const [left, top] = at(crop.x, crop.y);
  const [width, height] = [crop.width * perPixel, crop.height * perPixel];
  const pointed = (event: { clientX: number; clientY: number }): Point => [event.clientX / perPixel, event.clientY / perPixel];
  const dragged = (grip: Grip, start: Rect, by: Point): Rect =>
    draggedCrop(start, grip, by, ratioOf(store.getState()), outlineIn(store.getState().committed), cropping.beyond);
  const commit = (next: Rect): void => {
    store.getState().cancelPreview();
    store.getState().commit(`Crop to ${next.width} × ${next.height}`, setCrop(next));
  };
  const grab = (grip: Grip) => ({
    onPointerDown(event: PointerEvent<HTMLElement>) {
      if (event.button !== 0) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = { grip, start: cropIn(store.getState().committed), from: pointed(event) };
    },
    onPointerMove(event: PointerEvent<HTMLElement>) {
      const now = held.current;
      if (!now) return;
      event.stopPropagation();
      const [x, y] = pointed(event);
      store.getState().preview(setCrop(dragged(now.grip, now.start, [x - now.from[0], y - now.from[1]])));
    },
    onPointerUp(event: PointerEvent<HTMLElement>) {
      const now = held.current;
      held.current = null;
      if (!now) return;
      event.stopPropagation();
      const [x, y] = pointed(event);
      if (x === now.from[0] && y === now.from[1]) return store.getState().cancelPreview();
      commit(dragged(now.grip, now.start, [x - now.from[0], y - now.from[1]]));
    },
    onPointerCancel() {
      held.current = null;
      store.getState().cancelPreview();
    },
    onKeyDown(event: KeyboardEvent) {
      const arrow = ARROWS[event.key];
      if (!arrow) return;
      event.preventDefault();
      event.stopPropagation();
      const step = event.shiftKey ? 10 : 1;
      commit(dragged(grip, cropIn(store.getState().committed), [arrow[0] * step, arrow[1] * step]));
    },
  });

  /** Beside the frame, a drag turns the photograph about the frame's middle. */
  const angleAt = (event: PointerEvent, [x, y]: Point): number => {
    const rect = box.current!.getBoundingClientRect();
    return (Math.atan2(event.clientY - rect.top - y, event.clientX - rect.left - x) * 180) / Math.PI;
  };
  const turnedTo = (event: PointerEvent): number => {
    const now = turned.current!;
    const mirrored = geometryOf(store.getState().committed).flipped ? -1 : 1;
    const by = mirrored * (angleAt(event, now.middle) - now.from);
    const angle = now.angle + by - 360 * Math.round(by / 360);
    return Math.round(Math.max(-45, Math.min(45, angle)) * 10) / 10;
  };
  const beside = {
    onPointerDown(event: PointerEvent<HTMLElement>) {
      if (event.button !== 0) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      const middle: Point = [left + width / 2, top + height / 2];
      turned.current = { angle: geometryOf(store.getState().committed).angle, from: angleAt(event, middle), middle };
    },
    onPointerMove(event: PointerEvent<HTMLElement>) {
      if (turned.current) store.getState().preview(setLine({ angle: turnedTo(event) }));
    },
    onPointerUp(event: PointerEvent<HTMLElement>) {
      if (!turned.current) return;
      const angle = turnedTo(event);
      turned.current = null;
      store.getState().cancelPreview();
      store.getState().commit(`Straighten by ${angle}°`, setLine({ angle }));
    },
    onPointerCancel() {
      turned.current = null;
      store.getState().cancelPreview();
    },
  };
  return (
    <Overlay data-testid="crop" style={{ cursor: 'grab' }} onKeyDown={done} {...beside}>
      <svg aria-hidden>
        <path
          d={`M-9999 -9999H19999V19999H-9999ZM${left} ${top}v${height}h${width}v${-height}Z`}
          fill="#000"
          fillOpacity={0.55}
          fillRule="evenodd"
        />
        {SEEN.map((line) => (
          <rect key={line.stroke} x={left} y={top} width={width} height={height} fill="none" {...line} />
        ))}
        <g transform={`translate(${left} ${top})`}>
          {linesOf(cropping.lines, width, height).map(([x1, y1, x2, y2]) =>
            SEEN.map((line) => (
              <line
                key={`${line.stroke} ${x1} ${y1} ${x2} ${y2}`}
                {...{ x1, y1, x2, y2 }}
                {...line}
                strokeWidth={line.strokeWidth * 0.6}
                strokeOpacity={line.strokeOpacity * 0.7}
              />
            )),
          )}
        </g>
      </svg>
      {cropping.hand === 'frame' && (
        <>
          <Frame
            ref={frame}
            role="group"
            aria-label={`Crop, ${crop.width} × ${crop.height} at ${crop.x}, ${crop.y}`}
            tabIndex={0}
            style={{ left, top, width, height }}
            {...grab(WHOLE)}
          />
          {GRIPS.map(([name, grip, cursor]) => (
            <Held
              key={name}
              type="button"
              aria-label={`${name} of the crop`}
              style={{ left: left + (width * (grip[0] + 1)) / 2, top: top + (height * (grip[1] + 1)) / 2, cursor }}
              {...grab(grip)}
            />
          ))}
        </>
      )}
    </Overlay>
  );
}

/** Lines that help to place things: from, to. */
function linesOf(kind: 'thirds' | 'diagonals' | 'none', width: number, height: number): [number, number, number, number][] {
  if (kind === 'none') return [];
  if (kind === 'thirds')
    return [1, 2].flatMap((i): [number, number, number, number][] => [
      [(width * i) / 3, 0, (width * i) / 3, height],
      [0, (height * i) / 3, width, (height * i) / 3],
    ]);
  // From each corner at 45°.
  const side = Math.min(width, height);
  return [
    [0, 0, side, side],
    [width, 0, width - side, side],
    [0, height, side, height - side],
    [width, height, width - side, height - side],
  ];
}

/** A line along what is to be level, or upright. */
function LevelLine({ box }: { box: Box }) {
  const store = useBenchStore();
  const view = useBench((state) => state.view);
  const [line, setLine] = useState<{ from: Point; to: Point } | null>(null);
  const [a, b] = line ? [stagePoint(line.from, view), stagePoint(line.to, view)] : [null, null];
  return (
    <Overlay
      data-testid="level line"
      style={{ cursor: 'crosshair' }}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        const from = photoPoint(event, box.current!, view);
        setLine({ from, to: from });
      }}
      onPointerMove={(event) => line && setLine({ ...line, to: photoPoint(event, box.current!, view) })}
      onPointerUp={(event) => {
        if (!line) return;
        const to = photoPoint(event, box.current!, view);
        setLine(null);
        const state = store.getState();
        // A press is no line.
        if (Math.hypot(to[0] - line.from[0], to[1] - line.from[1]) * view.zoom < 10) return;
        state.commit('Level by a line', levelBy(line.from, to));
        state.set({ cropping: { ...state.cropping, hand: 'frame' } });
      }}
      onPointerCancel={() => setLine(null)}
    >
      <svg aria-hidden>{a && b && SEEN.map((seen) => <line key={seen.stroke} x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} {...seen} />)}</svg>
    </Overlay>
  );
}

const CORNERS = ['Top left', 'Top right', 'Bottom right', 'Bottom left'] as const;

/** Four places that become the corners of an upright rectangle. */
function Corners({ box }: { box: Box }) {
  const store = useBenchStore();
  const view = useBench((state) => state.view);
  const { width, height } = useBench((state) => state.photograph);
  const [corners, setCorners] = useState<readonly Place[]>(() => [
    [width * 0.25, height * 0.25],
    [width * 0.75, height * 0.25],
    [width * 0.75, height * 0.75],
    [width * 0.25, height * 0.75],
  ]);
  const held = useRef(false);
  const onStage = corners.map((corner) => stagePoint([...corner], view));
  const move = (i: number, to: Place): void => setCorners(corners.map((corner, j) => (i === j ? to : corner)));
  const end = (): void => store.getState().set({ cropping: { ...store.getState().cropping, hand: 'frame' } });
  const apply = (): void => {
    const recipe = uprightBy(store.getState().committed, corners);
    if (!recipe) return store.getState().set({ notice: 'These corners lie too steep for a rectangle, or cross each other.' });
    store.getState().commit('Upright by four corners', recipe);
    end();
  };
  const stop = (event: PointerEvent): void => event.stopPropagation();
  return (
    <Overlay
      data-testid="corners"
      onPointerDown={stop}
      onKeyDown={(event) => event.key === 'Enter' && (event.target as HTMLElement).dataset.corner !== undefined && apply()}
    >
      <svg aria-hidden>
        {SEEN.map((seen) => (
          <polygon key={seen.stroke} points={onStage.map((point) => point.join(',')).join(' ')} fill="none" {...seen} />
        ))}
      </svg>
      {CORNERS.map((name, i) => (
        <Held
          key={name}
          type="button"
          data-corner={i}
          aria-label={`${name} corner`}
          style={{ left: onStage[i]![0], top: onStage[i]![1], cursor: 'move' }}
          onPointerDown={(event) => {
            event.stopPropagation();
            event.currentTarget.setPointerCapture(event.pointerId);
            held.current = true;
          }}
          onPointerMove={(event) => held.current && move(i, photoPoint(event, box.current!, view))}
          onPointerUp={() => (held.current = false)}
          onPointerCancel={() => (held.current = false)}
          onKeyDown={(event) => {
            const arrow = ARROWS[event.key];
            if (!arrow) return;
            event.preventDefault();
            event.stopPropagation();
            const step = event.shiftKey ? 10 : 1;
            move(i, [corners[i]![0] + arrow[0] * step, corners[i]![1] + arrow[1] * step]);
          }}
        />
      ))}
      <Apply>
        <Button onPress={end}>Not now</Button>
        <Button $primary onPress={apply}>
          Make upright
        </Button>
      </Apply>
    </Overlay>
  );
}
