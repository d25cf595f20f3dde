'use client';
import { project, type Framing, type Size } from '@umbo/core/base';
import { contentKind, isLayer, onLayer, type MaskOwner, type Recipe } from '@umbo/core/document';
import { findPart, maskPartKind } from '@umbo/core/mask';
import { useRef, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import styled from 'styled-components';
import { onPart } from '../state/masks';
import { useBench, useBenchStore, useMaskOwner } from '../state/context';
import { photoPoint, SEEN, stagePoint, type Point } from './overlay';

const Handle = styled.button`
  position: absolute;
  width: 15px;
  height: 15px;
  margin: -7.5px;
  padding: 0;
  border: 2px solid #fff;
  border-radius: 50%;
  background: #191919;
  box-shadow: 0 0 0 1px #000;
  cursor: move;
  touch-action: none;
  &:focus-visible {
    outline: 2px solid #fff;
    outline-offset: 2px;
  }
`;

interface Place {
  name: string;
  at: Point;
  /** The edit with this place elsewhere. */
  move: (to: Point) => Recipe;
}

/** Places on the photograph that belong to the settings of the mask part or the content in work. */
function placesOf(owner: MaskOwner, partId: string | null, photograph: Size, framing: Framing | undefined): Place[] {
  const { id, where } = owner;
  const part = findPart(where, partId);
  const partKind = part && maskPartKind(part.kind);
  if (part && partKind?.handles)
    return partKind.handles(part, photograph).map(({ name, x, y }) => ({
      name,
      at: [x, y],
      move: ([px, py]) => onPart(id, part.id, (draft) => partKind.moveHandle!(draft, name, px, py, photograph)),
    }));
  if (!isLayer(owner)) return [];
  const { what } = owner;
  const kind = contentKind(what);
  // What goes by the picture's frame has its places there.
  const frame = kind?.framed ? framing : undefined;
  const full = frame?.size ?? photograph;
  return (kind?.handles?.(what.settings, full) ?? []).map(({ name, x, y }) => ({
    name,
    at: frame ? project(frame.toPhotograph, x, y) : [x, y],
    move: (to) => {
      const [px, py] = frame ? project(frame.toPicture, ...to) : to;
      return onLayer(id, ({ what: draft }) => kind!.moveHandle!(draft.settings, name, px, py, full));
    },
  }));
}

/** Handles on the photograph for the shape, the gradient or the frame in work. */
export function StageHandles({ box }: { box: RefObject<HTMLElement | null> }) {
  const store = useBenchStore();
  const view = useBench((state) => state.view);
  const layer = useMaskOwner();
  const held = useRef<Place | null>(null);
  const partId = useBench((state) => state.partId);
  if (!layer) return null;
  const shown = placesOf(layer, partId, store.getState().photograph, view.framing);
  const toStage = (point: Point): Point => stagePoint(point, view);
  const pointed = (event: PointerEvent): Point => photoPoint(event, box.current!, view);
  const commit = (place: Place, to: Point): boolean => store.getState().commit(`${place.name} on ${layer.name}`, place.move(to));
  const nudge = (place: Place) => (event: KeyboardEvent) => {
    const [x, y] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key] ?? [0, 0];
    if (x === 0 && y === 0) return;
    event.preventDefault();
    event.stopPropagation();
    const step = event.shiftKey ? 10 : 1;
    commit(place, [place.at[0] + x! * step, place.at[1] + y! * step]);
  };
  const [a, b, ...more] = shown.map(({ at }) => toStage(at));
  return (
    <>
      {a && b && more.length < 2 && (
        <svg className="ring" aria-hidden>
          {SEEN.map((line) => (
            <line key={line.stroke} x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} {...line} />
          ))}
        </svg>
      )}
      {shown.map((place) => {
        const [left, top] = toStage(place.at);
        return (
          <Handle
            key={place.name}
            type="button"
            aria-label={place.name}
            style={{ left, top }}
            onPointerDown={(event) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
              held.current = place;
            }}
            onPointerMove={(event) => {
              event.stopPropagation();
              if (held.current?.name === place.name) store.getState().preview(place.move(pointed(event)));
            }}
            onPointerUp={(event) => {
              event.stopPropagation();
              if (held.current?.name === place.name) commit(place, pointed(event));
              held.current = null;
            }}
            onPointerCancel={() => {
              held.current = null;
              store.getState().cancelPreview();
            }}
            onKeyDown={nudge(place)}
          />
        );
      })}
    </>
  );
}
