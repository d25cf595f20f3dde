'use client';
import { useRef, type PointerEvent } from 'react';
import styled from 'styled-components';
import { numberRange, type Unit } from './numberRange';
import { NumberText } from './NumberText';

const Box = styled.div`
  display: flex;
  align-items: center;
  gap: 2px;
  touch-action: none;
  > span {
    cursor: ew-resize;
    color: var(--ink2);
    padding: 4px 0;
  }
`;

/** A drag over so many pixels goes from one end of the range to the other. */
const WHOLE = 300;

interface Props {
  label: string;
  /** Its name in full. */
  name?: string;
  value: number;
  min: number;
  max: number;
  step: number;
  unit?: Unit;
  /** Where a double-click on its label brings it. */
  neutral: number;
  /** A drag changes it by factors: for sizes, which are small and large. */
  byFactor?: boolean;
  width: number;
  onChange: (value: number) => void;
}

/** A small number with a label that is dragged to change it: for places without room for a slider. */
export function Scrub({ label, name = label, value, min, max, step, unit = '', neutral, byFactor = false, width, onChange }: Props) {
  const range = numberRange({ min, max, step, unit });
  const held = useRef<{ x: number; value: number } | null>(null);
  const move = (event: PointerEvent): void => {
    const from = held.current;
    if (!from) return;
    const by = event.clientX - from.x;
    onChange(range.settle(byFactor ? from.value * Math.exp(by / (WHOLE / 2)) : from.value + (by / WHOLE) * (max - min)));
  };
  return (
    <Box>
      <span
        aria-hidden
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          held.current = { x: event.clientX, value };
        }}
        onPointerMove={move}
        onPointerUp={() => (held.current = null)}
        onPointerCancel={() => (held.current = null)}
        onDoubleClick={() => onChange(neutral)}
      >
        {label}
      </span>
      <NumberText name={name} value={value} range={range} width={width} onCommit={onChange} />
    </Box>
  );
}
