'use client';
import type { Driver } from '@umbo/core/adjust';
import { clamp } from '@umbo/core/base';
import { useRef } from 'react';
import { Hills, ToneUnder } from './Hills';
import { RangeSvg } from './RangeSvg';
import type { LitUp } from '../../workers/protocol';
import { useHandleTrack } from './useHandleTrack';
import { together, useLight } from './useLight';

const WIDTH = 320;
const BASE = 50;
const TOP = 6;

export interface ToneHandle<N extends string> {
  name: N;
  /** Percent. */
  at: number;
  /** At the foot of the histogram, or at its top. */
  foot: boolean;
}

interface Props<N extends string> {
  label: string;
  /** Shares of the pixels, from black to white. */
  bins: Float32Array | null;
  /** What its tones are of, and by which picture they are lit up while they are pointed at. */
  by: Driver;
  of?: LitUp['of'];
  /** The tone under the pointer, 0..1. */
  under?: number | null;
  handles: readonly ToneHandle<N>[];
  /** What the handles let in, 0..1 over 0..100 percent; null where they are no range. */
  shape: ((tone: number) => number) | null;
  onMove: (name: N, at: number, done: boolean) => void;
  onCancel: () => void;
}

/** Handles on a histogram, over a ramp from black to white. */
export function ToneHandles<N extends string>({ label, bins, by, of = 'below', under = null, handles, shape, onMove, onCancel }: Props<N>) {
  const svg = useRef<SVGSVGElement>(null);
  const x = (percent: number): number => (percent / 100) * WIDTH;
  const latest = useRef(0);
  const light = useLight(of, by);
  const { grab, track, keys } = useHandleTrack<ToneHandle<N>>(svg, {
    drag({ name }, to) {
      latest.current = clamp(Math.round(to.x * 1000) / 10, 0, 100);
      onMove(name, latest.current, false);
    },
    drop: ({ name }) => onMove(name, latest.current, true),
    cancel: onCancel,
    step: ({ name, at }, right, up) => onMove(name, clamp(at + right + up, 0, 100), true),
  });
  const curve = shape
    ? Array.from({ length: 101 }, (_, i) => `${i ? 'L' : 'M'}${x(i).toFixed(1)} ${(BASE - shape(i) * (BASE - TOP)).toFixed(1)}`).join('')
    : '';
  return (
    <RangeSvg ref={svg} viewBox={`0 0 ${WIDTH} ${BASE + 14}`} role="group" aria-label={label} {...together(track, light)}>
      <Hills bins={bins} width={WIDTH} base={BASE} height={BASE - TOP - 6} />
      {curve && <path d={curve} fill="none" stroke="var(--ink)" strokeWidth={1.5} />}
      <defs>
        <linearGradient id="tone-ramp">
          <stop offset="0" stopColor="#000" />
          <stop offset="1" stopColor="#fff" />
        </linearGradient>
      </defs>
      <rect x={0} y={BASE + 4} width={WIDTH} height={7} fill="url(#tone-ramp)" />
      <line x1={0} x2={WIDTH} y1={BASE} y2={BASE} stroke="var(--ink)" />
      {under !== null && <ToneUnder x={under * WIDTH} top={TOP} base={BASE} />}
      {handles.map((handle) => (
        <rect
          key={handle.name}
          className="handle"
          x={x(handle.at) - 4}
          y={(handle.foot ? BASE : TOP) - 6}
          width={8}
          height={12}
          rx={2}
          tabIndex={0}
          role="slider"
          aria-label={handle.name}
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(handle.at)}
          onPointerDown={grab(handle)}
          onKeyDown={keys(handle)}
        />
      ))}
    </RangeSvg>
  );
}
