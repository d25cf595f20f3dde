'use client';
import { type Place } from '@umbo/core/geometry';
import { useRef, useState, type PointerEvent, type RefObject } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { levelBy, uprightBy } from '../state/cropping';
import { useBench, useBenchStore } from '../state/context';
import { ARROWS, CropFrame, Held } from './CropFrame';
import { Overlay, photoPoint, SEEN, stagePoint, type Point } from './overlay';

const Apply = styled.div`
  position: absolute;
  left: 50%;
  top: 10px;
  transform: translateX(-50%);
  display: flex;
  gap: 6px;
`;

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
