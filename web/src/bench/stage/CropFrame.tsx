'use client';
import type { Rect } from '@umbo/core/base';
import { useEffect, useRef, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import styled from 'styled-components';
import { cropIn, draggedCrop, geometryOf, outlineIn, ratioOf, setCrop, setLine, type Grip } from '../state/cropping';
import { useBench, useBenchStore } from '../state/context';
import { shownOfPlane } from '../state/view';
import { Overlay, SEEN, type Point } from './overlay';

export const Held = styled.button`
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
export const ARROWS: Readonly<Record<string, Point>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** Where the crop is on the stage, in pixels of the screen, and how many of them a pixel of the picture takes. */
function useCropOnStage() {
  const store = useBenchStore();
  const view = useBench((state) => state.view);
  const crop = cropIn(useBench((state) => state.document));
  const shown = shownOfPlane(store.getState());
  const device = globalThis.devicePixelRatio || 1;
  const perPixel = view.zoom / device;
  return {
    crop,
    perPixel,
    left: view.x / device + (crop.x - shown.x) * perPixel,
    top: view.y / device + (crop.y - shown.y) * perPixel,
    width: crop.width * perPixel,
    height: crop.height * perPixel,
  };
}

/** The frame is moved and sized by its middle, its edges and its corners, and by arrow keys. */
function useGrips(perPixel: number) {
  const store = useBenchStore();
  const beyond = useBench((state) => state.cropping.beyond);
  const held = useRef<{ grip: Grip; start: Rect; from: Point } | null>(null);
  const pointed = (event: { clientX: number; clientY: number }): Point => [event.clientX / perPixel, event.clientY / perPixel];
  const dragged = (grip: Grip, start: Rect, by: Point): Rect =>
    draggedCrop(start, grip, by, ratioOf(store.getState()), outlineIn(store.getState().committed), beyond);
  const commit = (next: Rect): void => {
    store.getState().cancelPreview();
    store.getState().commit(`Crop to ${next.width} × ${next.height}`, setCrop(next));
  };
  const cancel = (): void => {
    held.current = null;
    store.getState().cancelPreview();
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
    onPointerCancel: cancel,
    onKeyDown(event: KeyboardEvent) {
      const arrow = ARROWS[event.key];
      if (!arrow) return;
      event.preventDefault();
      event.stopPropagation();
      const step = event.shiftKey ? 10 : 1;
      commit(dragged(grip, cropIn(store.getState().committed), [arrow[0] * step, arrow[1] * step]));
    },
  });
  return { grab, isHeld: () => held.current !== null, cancel };
}

/** Beside the frame, a drag turns the photograph about the frame's middle. @param middle on the stage */
function useTurning(box: RefObject<HTMLElement | null>, middle: Point) {
  const store = useBenchStore();
  const turned = useRef<{ angle: number; from: number; middle: Point } | null>(null);
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
  const cancel = (): void => {
    turned.current = null;
    store.getState().cancelPreview();
  };
  const beside = {
    onPointerDown(event: PointerEvent<HTMLElement>) {
      if (event.button !== 0) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      turned.current = { angle: geometryOf(store.getState().committed).angle, from: angleAt(event, middle), middle };
    },
    onPointerMove(event: PointerEvent<HTMLElement>) {
      if (turned.current) store.getState().preview(setLine({ angle: turnedTo(event) }));
    },
    onPointerUp(event: PointerEvent<HTMLElement>) {
      if (!turned.current) return;
      const angle = turnedTo(event);
      cancel();
      store.getState().commit(`Straighten by ${angle}°`, setLine({ angle }));
    },
    onPointerCancel: cancel,
  };
  return { beside, isTurned: () => turned.current !== null, cancel };
}

/** The frame over all of the photograph, and beside it what turns. */
export function CropFrame({ box }: { box: RefObject<HTMLElement | null> }) {
  const store = useBenchStore();
  const cropping = useBench((state) => state.cropping);
  const frame = useRef<HTMLDivElement>(null);
  const { crop, perPixel, left, top, width, height } = useCropOnStage();
  const grips = useGrips(perPixel);
  const turning = useTurning(box, [left + width / 2, top + height / 2]);
  // The arrow keys are the frame's from the beginning.
  useEffect(() => frame.current?.focus({ preventScroll: true }), []);
  const done = (event: KeyboardEvent): void => {
    if (event.key !== 'Enter' && event.key !== 'Escape') return;
    if (grips.isHeld()) return grips.cancel();
    if (turning.isTurned()) return turning.cancel();
    store.getState().set({ tool: 'move' });
    box.current!.focus({ preventScroll: true });
  };
  return (
    <Overlay data-testid="crop" style={{ cursor: 'grab' }} onKeyDown={done} {...turning.beside}>
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
            {...grips.grab(WHOLE)}
          />
          {GRIPS.map(([name, grip, cursor]) => (
            <Held
              key={name}
              type="button"
              aria-label={`${name} of the crop`}
              style={{ left: left + (width * (grip[0] + 1)) / 2, top: top + (height * (grip[1] + 1)) / 2, cursor }}
              {...grips.grab(grip)}
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
