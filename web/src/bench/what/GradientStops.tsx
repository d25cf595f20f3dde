'use client';
import type { GradientStop } from '@umbo/core/colour';
import { clamp } from '@umbo/core/base';
import { useRef } from 'react';
import styled from 'styled-components';
import { useHandleTrack } from '../ranges/useHandleTrack';
import { cssOf } from '@/ui/hexOf';
import { useSpace } from '../state/context';

const Ramp = styled.div`
  position: relative;
  height: 34px;
  margin: 4px 6px 6px;
  > i {
    position: absolute;
    inset: 0 0 14px;
    border-radius: 2px;
    border: 1px solid var(--line);
  }
  button {
    position: absolute;
    top: 12px;
    width: 13px;
    height: 20px;
    margin-left: -6.5px;
    padding: 0;
    border: 2px solid var(--raised);
    outline: 1px solid var(--ink);
    border-radius: 2px;
    touch-action: none;
    cursor: ew-resize;
  }
  button[aria-pressed='true'] {
    border-color: var(--ink);
  }
  button:focus-visible {
    outline-width: 3px;
  }
`;
/** The stops on their ramp. */
export function GradientStops(props: {
  stops: readonly GradientStop[];
  chosen: number;
  choose: (stop: number) => void;
  onPreview: (at: number) => void;
  onCommit: (at: number) => void;
  onCancel: () => void;
}) {
  const { stops, chosen, choose } = props;
  const space = useSpace();
  const ramp = useRef<HTMLDivElement>(null);
  /** Where a stop is being dragged to. */
  const dragged = useRef(0);
  const { grab, track, keys } = useHandleTrack<number>(ramp, {
    begin: choose,
    drag(_stop, { x }) {
      dragged.current = clamp(x, 0, 1);
      props.onPreview(dragged.current);
    },
    drop: () => props.onCommit(dragged.current),
    cancel: props.onCancel,
    step(stop, right, up) {
      choose(stop);
      props.onCommit(clamp(stops[stop]!.at + (right + up) / 100, 0, 1));
    },
  });
  const sorted = [...stops].sort((a, b) => a.at - b.at);
  const colours = sorted.map(({ at, colour, opacity }) => `${cssOf(colour, space).replace(')', ` / ${opacity})`)} ${at * 100}%`).join(', ');
  return (
    <Ramp ref={ramp} {...track}>
      <i style={{ background: `linear-gradient(to right in oklab, ${colours})` }} />
      {stops.map(({ at, colour }, i) => (
        <button
          key={i}
          type="button"
          aria-label={`Stop ${i + 1}, at ${Math.round(at * 100)} %`}
          aria-pressed={i === chosen}
          style={{ left: `${at * 100}%`, background: cssOf(colour, space) }}
          onClick={() => choose(i)}
          onPointerDown={grab(i)}
          onKeyDown={keys(i)}
        />
      ))}
    </Ramp>
  );
}
