'use client';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { Hills, ToneUnder } from './Hills';
import { RangeSvg } from './RangeSvg';

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
  /** The tone under the pointer, 0..1. */
  under?: number | null;
  handles: readonly ToneHandle<N>[];
  /** What the handles let in, 0..1 over 0..100 percent; null where they are no range. */
  shape: ((tone: number) => number) | null;
  onMove: (name: N, at: number, done: boolean) => void;
  onCancel: () => void;
}

/** Handles on a histogram, over a ramp from black to white. */
export function ToneHandles<N extends string>({ label, bins, under = null, handles, shape, onMove, onCancel }: Props<N>) {
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef<{ name: N; at: number | null } | null>(null);
  const x = (percent: number): number => (percent / 100) * WIDTH;
  const move = (event: PointerEvent): void => {
    const now = held.current;
    if (!now) return;
    const { left, width } = svg.current!.getBoundingClientRect();
    now.at = Math.max(0, Math.min(100, Math.round(((event.clientX - left) / width) * 1000) / 10));
    onMove(now.name, now.at, false);
  };
  const up = (): void => {
    const now = held.current;
    held.current = null;
    if (now && now.at !== null) onMove(now.name, now.at, true);
  };
  const cancel = (): void => {
    held.current = null;
    onCancel();
  };
  const nudge = (handle: ToneHandle<N>) => (event: KeyboardEvent) => {
    const direction = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!direction) return;
    event.preventDefault();
    event.stopPropagation();
    onMove(handle.name, Math.max(0, Math.min(100, handle.at + direction * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1))), true);
  };
  const curve = shape
    ? Array.from({ length: 101 }, (_, i) => `${i ? 'L' : 'M'}${x(i).toFixed(1)} ${(BASE - shape(i) * (BASE - TOP)).toFixed(1)}`).join('')
    : '';
  return (
    <RangeSvg
      ref={svg}
      viewBox={`0 0 ${WIDTH} ${BASE + 14}`}
      role="group"
      aria-label={label}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={cancel}
    >
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
          onPointerDown={(event) => {
            if (event.button !== 0) return;
            (event.target as Element).setPointerCapture(event.pointerId);
            held.current = { name: handle.name, at: null };
          }}
          onKeyDown={nudge(handle)}
        />
      ))}
    </RangeSvg>
  );
}
