'use client';
import type { GradientStop } from '@umbo/core/colour';
import { useRef } from 'react';
import styled from 'styled-components';
import { cssOf } from '../colour/colourModels';

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
  /** Where a stop is being dragged to; null while none is. */
  const dragged = useRef<number | null>(null);
  const sorted = [...stops].sort((a, b) => a.at - b.at);
  const ramp = sorted.map(({ at, colour, opacity }) => `${cssOf(colour).replace(')', ` / ${opacity})`)} ${at * 100}%`).join(', ');
  const share = (event: { clientX: number; currentTarget: Element }): number => {
    const { left, width } = event.currentTarget.parentElement!.getBoundingClientRect();
    return Math.max(0, Math.min(1, (event.clientX - left) / width));
  };
  return (
    <Ramp>
      <i style={{ background: `linear-gradient(to right in oklab, ${ramp})` }} />
      {stops.map(({ at, colour }, i) => (
        <button
          key={i}
          type="button"
          aria-label={`Stop ${i + 1}, at ${Math.round(at * 100)} %`}
          aria-pressed={i === chosen}
          style={{ left: `${at * 100}%`, background: cssOf(colour) }}
          onClick={() => choose(i)}
          onPointerDown={(event) => {
            choose(i);
            event.currentTarget.setPointerCapture(event.pointerId);
          }}
          onPointerMove={(event) => {
            if (i !== chosen || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
            dragged.current = share(event);
            props.onPreview(dragged.current);
          }}
          onPointerUp={() => {
            if (dragged.current !== null) props.onCommit(dragged.current);
            dragged.current = null;
          }}
          onPointerCancel={() => {
            dragged.current = null;
            props.onCancel();
          }}
        />
      ))}
    </Ramp>
  );
}
