'use client';
import { findMaskOwner } from '@umbo/core/document';
import { findPart, maskPartKind } from '@umbo/core/mask';
import { useRef, useState, type PointerEvent, type RefObject } from 'react';
import { useBench, useBenchStore } from '../state/context';
import { Overlay, photoPoint, SEEN, stagePoint, type Point } from './overlay';
import { takeIntoPart } from './take';

/** Places along a drag are this far apart on the screen, and no more than so many. */
const STEP = 10;
const MOST = 24;

/** Clicks and drags on the photograph that widen or narrow what the mask part in work catches. */
export function TakeTool({ box, leaveOut }: { box: RefObject<HTMLElement | null>; leaveOut: boolean }) {
  const store = useBenchStore();
  const view = useBench((state) => state.view);
  const held = useRef<{ x: number; y: number; places: Point[] } | null>(null);
  const [places, setPlaces] = useState<Point[]>([]);
  const down = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    box.current!.focus({ preventScroll: true });
    held.current = { x: event.clientX, y: event.clientY, places: [photoPoint(event, box.current!, view)] };
    setPlaces(held.current.places);
  };
  const move = (event: PointerEvent): void => {
    const now = held.current;
    if (!now || now.places.length >= MOST || Math.hypot(event.clientX - now.x, event.clientY - now.y) < STEP) return;
    held.current = { x: event.clientX, y: event.clientY, places: [...now.places, photoPoint(event, box.current!, view)] };
    setPlaces(held.current.places);
  };
  const up = (event: PointerEvent): void => {
    const now = held.current;
    held.current = null;
    setPlaces([]);
    // Alt turns the tool round for one click.
    if (now) void takeIntoPart(store.getState, now.places, leaveOut !== event.altKey);
  };
  const cancel = (): void => {
    held.current = null;
    setPlaces([]);
  };
  return (
    <Overlay
      data-testid="take"
      style={{ cursor: leaveOut ? 'not-allowed' : 'copy' }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={cancel}
    >
      <Picks />
      <svg aria-hidden>
        {places.map((place, i) => {
          const [cx, cy] = stagePoint(place, view);
          return SEEN.map((line, k) => <circle key={`${i} ${k}`} cx={cx} cy={cy} r={4} fill="none" {...line} />);
        })}
      </svg>
    </Overlay>
  );
}

/** The places from which colours were taken: a plus for what is caught, a minus for what is left out. */
function Picks() {
  const view = useBench((state) => state.view);
  const part = useBench(({ document, layerId, partId }) => {
    const layer = findMaskOwner(document, layerId);
    return layer && findPart(layer.where, partId);
  });
  const taken = part && maskPartKind(part.kind).taken?.(part);
  if (!taken) return null;
  return (
    <svg aria-hidden>
      {taken.map(({ x, y, away }, i) => {
        const [cx, cy] = stagePoint([x, y], view);
        const path = `M${cx - 4} ${cy}h8${away ? '' : `M${cx} ${cy - 4}v8`}`;
        return SEEN.map((line, k) => <path key={`${i} ${k}`} d={path} fill="none" {...line} />);
      })}
    </svg>
  );
}
