'use client';
import { CURVE_DRIVERS, CURVE_GAP, curveOf, type CurveChannel, type CurvePoint } from '@umbo/core/adjust';
import { clamp } from '@umbo/core/base';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import styled from 'styled-components';
import { Hills, ToneUnder, useTones } from '../../ranges/Hills';
import { useHandleTrack } from '../../ranges/useHandleTrack';
import { together, useLight } from '../../ranges/useLight';
import { useBenchStore } from '../../state/context';
import { movedPoint, withoutPoint } from './curvePoints';

const SIDE = 320;
const HEIGHT = 176;
/** Dragged this far out of the field, in pixels, a point is removed. */
const OUT = 30;
/** Points that a curve may have. */
const MOST = 32;

const Field = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  margin: 6px 0 4px;
  background: var(--well);
  touch-action: none;
  user-select: none;
  overflow: visible;
  cursor: crosshair;
  .point {
    fill: var(--raised);
    stroke: var(--ink);
    stroke-width: 1.5;
    cursor: move;
    outline: none;
  }
  .point[aria-current='true'] {
    fill: var(--ink);
  }
  .point:focus-visible {
    stroke-width: 3.5;
  }
`;
const toX = (v: number): number => v * SIDE;
const toY = (v: number): number => HEIGHT - v * HEIGHT;

interface Props {
  layerId: string;
  channel: CurveChannel;
  /** Such as "Red". */
  name: string;
  /** What the numbers on the screen go up to. */
  full: number;
  points: CurvePoint[];
  chosen: number;
  onChoose: (index: number) => void;
  preview: (points: CurvePoint[]) => void;
  /** With words for the history. */
  commit: (words: string, points: CurvePoint[]) => void;
  remove: (index: number) => void;
}

/** Such as "64 to 80". */
export const pointWords = ([x, y]: CurvePoint, full: number): string => `${Math.round(x * full)} to ${Math.round(y * full)}`;

/** How points are added, moved and taken away by pointer and keys. */
function usePoints({ points, full, chosen, onChoose, preview, commit, remove }: Props) {
  const store = useBenchStore();
  const svg = useRef<SVGSVGElement>(null);
  /** The points as they were when one was taken hold of, and as they are now; null before it is moved. */
  const held = useRef<{ points: CurvePoint[]; latest: CurvePoint[] | null }>({ points: [], latest: null });
  const whole = (v: number): number => Math.round(v * full) / full;
  const drop = (index: number): void => {
    const { points: before, latest } = held.current;
    if (latest!.length < before.length) commit('point removed', latest!);
    else commit(pointWords(latest![index]!, full), latest!);
  };
  const { grab, track, keys, placeOf } = useHandleTrack<number>(svg, {
    begin(index) {
      onChoose(index);
      held.current = { points: [...points], latest: null };
    },
    drag(index, { x, y, outside }) {
      const now = held.current;
      now.latest = outside > OUT ? withoutPoint(now.points, index) : movedPoint(now.points, index, whole(x), whole(y));
      preview(now.latest);
    },
    drop,
    // A point that came into being under the pointer stays.
    cancel: (why) => (why === 'still' && held.current.latest ? drop(chosen) : store.getState().cancelPreview()),
    step(index, right, up) {
      const next = movedPoint(points, index, points[index]![0] + right / full, points[index]![1] + up / full);
      commit(pointWords(next[index]!, full), next);
    },
  });
  const add = (event: PointerEvent): void => {
    if (event.button !== 0 || points.length >= MOST) return;
    const { x } = placeOf(event);
    const input = clamp(whole(x), 0, 1);
    if (points.some((point) => Math.abs(point[0] - input) < CURVE_GAP)) return;
    const next = [...points, [input, clamp(curveOf(points)(input), 0, 1)] as CurvePoint].sort((a, b) => a[0] - b[0]);
    grab(next.findIndex((point) => point[0] === input))(event);
    held.current = { points: next, latest: next };
    preview(next);
  };
  const key = (index: number) => (event: KeyboardEvent) => {
    if (event.key !== 'Delete' && event.key !== 'Backspace') return keys(index)(event);
    event.preventDefault();
    event.stopPropagation();
    remove(index);
  };
  return { svg, grab, key, track: { ...track, onPointerDown: add } };
}

/** A curve on the histogram of what the mask lets in. Points: click to add, drag out or Delete to remove, arrows to move. */
export function CurveField(props: Props) {
  const { layerId, channel, name, full, points, chosen, onChoose, remove } = props;
  const { svg, grab, key, track } = usePoints(props);
  const { bins, under } = useTones(layerId, CURVE_DRIVERS[channel]);
  const light = useLight('below', CURVE_DRIVERS[channel]);
  const curve = curveOf(points);
  const path = Array.from({ length: 129 }, (_, i) => `${i ? 'L' : 'M'}${toX(i / 128).toFixed(1)} ${toY(curve(i / 128)).toFixed(1)}`);
  return (
    <Field ref={svg} viewBox={`0 0 ${SIDE} ${HEIGHT}`} role="group" aria-label={`${name} curve`} {...together(track, light)}>
      <Hills bins={bins} width={SIDE} base={HEIGHT} height={HEIGHT * 0.8} />
      {[0.25, 0.5, 0.75].map((v) => (
        <path key={v} d={`M${toX(v)} 0V${HEIGHT}M0 ${toY(v)}H${SIDE}`} stroke="var(--line)" strokeWidth={0.7} />
      ))}
      <path d={`M0 ${HEIGHT}L${SIDE} 0`} stroke="var(--track)" strokeDasharray="3 3" />
      {under !== null && <ToneUnder x={toX(under)} top={toY(curve(under))} base={HEIGHT} />}
      <path d={path.join('')} fill="none" stroke="var(--ink)" strokeWidth={1.7} pointerEvents="none" />
      {points.map((point, i) => (
        <circle
          key={i}
          className="point"
          cx={toX(point[0])}
          cy={toY(point[1])}
          r={4.5}
          tabIndex={0}
          role="slider"
          aria-label={`Point ${i + 1}`}
          aria-valuemin={0}
          aria-valuemax={full}
          aria-valuenow={Math.round(point[1] * full)}
          aria-valuetext={pointWords(point, full)}
          aria-current={i === chosen}
          onFocus={() => onChoose(i)}
          onPointerDown={grab(i)}
          onContextMenu={(event) => {
            event.preventDefault();
            remove(i);
          }}
          onKeyDown={key(i)}
        />
      ))}
    </Field>
  );
}
