'use client';
import { spaces, type Colour } from '@umbo/core/colour';
import { intersect, wholeOf, type SpaceId } from '@umbo/core/base';
import { contentKind, findLayer, onLayer, type Content } from '@umbo/core/document';
import { useRef, useState, type PointerEvent, type RefObject } from 'react';
import styled from 'styled-components';
import { useBench, useBenchStore } from '../state/context';
import { Overlay, photoPoint, SEEN } from './overlay';

/** A drag over this many pixels of the screen is a whole of what a pull counts in. */
const WHOLE = 500;
/** How far around the place the colour is taken, in pixels of the photograph. */
const REACH = 2;

const Words = styled.span`
  position: absolute;
  transform: translate(14px, -24px);
  padding: 1px 7px;
  border-radius: var(--radius);
  background: var(--ink);
  color: var(--on-ink);
  white-space: nowrap;
  pointer-events: none;
`;

interface Pulled {
  layerId: string;
  name: string;
  what: Content;
  quality: string;
  x: number;
  y: number;
  by: number;
  /** Null until it is known. */
  colour: Colour | null;
  ended: boolean;
}

/** The settings after the drag so far, and what it changed; null where the colour decides about nothing. */
function pulled(now: Pulled, space: SpaceId): { settings: object; words: string } | null {
  const settings = structuredClone(now.what.settings);
  const words = contentKind(now.what)!.pull!.drag(settings, now.colour!, now.quality, now.by, spaces[space]);
  return words === null ? null : { settings, words };
}

/** Where the pull began, and what it has changed so far. */
function PulledHere({ x, y, words }: { x: number; y: number; words: string }) {
  return (
    <>
      <svg aria-hidden>
        {SEEN.map((line, k) => (
          <circle key={k} cx={x} cy={y} r={5} fill="none" {...line} />
        ))}
      </svg>
      {words && <Words style={{ left: x, top: y }}>{words}</Words>}
    </>
  );
}

/** Dragging on a colour of the photograph to the right or upwards raises the setting that decides about it; to the left or down lowers it. */
export function PullTool({ box }: { box: RefObject<HTMLElement | null> }) {
  const store = useBenchStore();
  const view = useBench((state) => state.view);
  const held = useRef<Pulled | null>(null);
  const [shown, setShown] = useState<{ x: number; y: number; words: string } | null>(null);

  const show = (now: Pulled): void => {
    const result = now.colour && pulled(now, store.getState().committed.workingSpace);
    if (!result) return;
    const { settings, words } = result;
    // Where a press chooses what a pull would change, it changes nothing; a curve gets its point by it.
    const { partAt, colourAt } = contentKind(now.what)!.pull!;
    if (now.by === 0 && (partAt ?? colourAt)) return store.getState().cancelPreview();
    const recipe = onLayer(now.layerId, (draft) => void Object.assign(draft.what.settings, settings));
    if (now.ended) store.getState().commit(`${words} on ${now.name}`, recipe);
    else {
      setShown((before) => before && { ...before, words });
      store.getState().preview(recipe);
    }
  };

  const down = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    const { committed, layerId, pull, photograph, askSample, set } = store.getState();
    const layer = findLayer(committed, layerId);
    const own = layer && contentKind(layer.what)?.pull;
    if (!own) return;
    const { what } = layer;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    box.current!.focus({ preventScroll: true });
    const [x, y] = photoPoint(event, box.current!, view).map(Math.floor) as [number, number];
    const area = intersect({ x: x - REACH, y: y - REACH, width: 2 * REACH + 1, height: 2 * REACH + 1 }, wholeOf(photograph));
    if (area.width < 1 || area.height < 1) return;
    const quality = own.qualities.some(([id]) => id === pull) ? pull : own.qualities[0]![0];
    const now: Pulled = {
      layerId: layer.id,
      name: layer.name,
      what,
      quality,
      x: event.clientX,
      y: event.clientY,
      by: 0,
      colour: null,
      ended: false,
    };
    held.current = now;
    const { left, top } = box.current!.getBoundingClientRect();
    setShown({ x: event.clientX - left, y: event.clientY - top, words: '' });
    if (own.colourAt) {
      now.colour = own.colourAt(what.settings, x, y);
      if (!now.colour) set({ notice: 'Nothing is painted here: pull on a colour of the layer.' });
      return;
    }
    askSample(area, layer.id).then(
      (colour) => {
        now.colour = colour;
        const { settingsPart, committed: edit } = store.getState();
        const part = own.partAt?.(what.settings, colour, spaces[edit.workingSpace]);
        if (part) set({ settingsPart: { ...settingsPart, [now.layerId]: part } });
        if (pulled(now, edit.workingSpace) === null)
          set({ notice: 'This is too grey to belong to a colour family: pull on something with a colour.' });
        else show(now);
      },
      (error: Error) => set({ notice: error.message }),
    );
  };
  const move = (event: PointerEvent): void => {
    const now = held.current;
    if (!now) return;
    now.by = (event.clientX - now.x - (event.clientY - now.y)) / WHOLE;
    show(now);
  };
  const up = (): void => {
    const now = held.current;
    held.current = null;
    setShown(null);
    if (!now) return;
    now.ended = true;
    show(now);
  };
  const cancel = (): void => {
    const now = held.current;
    held.current = null;
    setShown(null);
    if (now) store.getState().cancelPreview();
  };
  return (
    <Overlay
      data-testid="pull"
      style={{ cursor: 'move' }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={cancel}
    >
      {shown && <PulledHere {...shown} />}
    </Overlay>
  );
}
