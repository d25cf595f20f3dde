'use client';
import { clamp } from '@umbo/core/base';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { Label, Slider as AriaSlider, SliderThumb, SliderTrack } from 'react-aria-components';
import styled, { css } from 'styled-components';
import { parseNumber } from '../parseNumber';

const Row = styled(AriaSlider)<{ $stacked: boolean }>`
  display: grid;
  grid-template-columns: 78px 1fr 58px;
  gap: 8px;
  align-items: center;
  min-height: 24px;
  ${(p) =>
    p.$stacked &&
    css`
      grid-template-columns: 1fr 44px;
      gap: 0;
      > :nth-child(2) {
        grid-area: 2 / 1 / 3 / 3;
      }
      input {
        width: 44px;
      }
    `}
`;
/** Hues over a track, as HSL and OKLCh have them. */
const HUES = {
  hsl: 'linear-gradient(to right in hsl longer hue, hsl(0 80% 50%), hsl(360 80% 50%))',
  hue: 'linear-gradient(to right in oklch longer hue, oklch(0.68 0.14 0), oklch(0.68 0.14 360))',
} as const;
const Track = styled(SliderTrack)<{ $scale: keyof typeof HUES | undefined }>`
  position: relative;
  height: 20px;
  cursor: default;
  &::before {
    content: '';
    position: absolute;
    left: 0;
    right: 0;
    top: 8.5px;
    height: 3px;
    border-radius: 2px;
    background: var(--track);
    ${(p) =>
      p.$scale &&
      css`
        top: 6px;
        height: 8px;
        background: ${HUES[p.$scale]};
      `}
  }
`;
const Note = styled.small`
  font: 400 10px/16px var(--sans);
  color: var(--ink2);
  margin-left: 4px;
`;
const Fill = styled.i`
  position: absolute;
  top: 8.5px;
  height: 3px;
  background: var(--ink);
  pointer-events: none;
`;
const Thumb = styled(SliderThumb)`
  top: 50%;
  width: 7px;
  height: 15px;
  border-radius: 2px;
  background: var(--ink);
  &::after {
    content: '';
    position: absolute;
    inset: -5px -9px;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--ink);
    outline-offset: 2px;
  }
`;
const Field = styled.input`
  width: 58px;
  height: 22px;
  padding: 0 3px;
  text-align: right;
  border: 1px solid transparent;
  border-radius: var(--radius);
  background: none;
  font: 400 11px/16px var(--mono);
  letter-spacing: -0.02em;
  &:hover {
    border-color: var(--line);
  }
  &:focus {
    border-color: var(--edge);
    background: var(--raised);
    outline: 2px solid var(--ink);
    outline-offset: 0;
  }
`;

export interface SliderProps {
  label: string;
  /** Its name in full, for those who do not see what stands around it. */
  name?: string;
  value: number;
  min: number;
  max: number;
  step: number;
  /** The bounds of its track, where those of its number are too wide for one. */
  usual?: readonly [number, number];
  /** A word beside the label. */
  note?: string | undefined;
  /** Shown weakly: it has hardly anything to act on. */
  dim?: boolean;
  /** The hues that the track runs through. */
  scale?: 'hue' | 'hsl' | undefined;
  /** For narrow places: the track under the words. */
  stacked?: boolean;
  /** Where a double-click brings it, and where its bar begins. */
  neutral: number;
  unit?: '' | '°' | '%' | 'px' | 'ΔE' | 'K';
  /** Shows a plus before positive values. */
  signed?: boolean;
  /** Called at every move. */
  onPreview: (value: number) => void;
  /** Called once at the end of a move, and for typed values. */
  onCommit: (value: number) => void;
}

/** Drag, type, arrow (Shift for big steps, Alt for fine ones), scroll when focused, double-click to reset. */
export function Slider(props: SliderProps) {
  const {
    label,
    name = label,
    value,
    min,
    max,
    step,
    usual = [min, max],
    note,
    dim = false,
    scale,
    stacked = false,
    neutral,
    unit = '',
    signed = false,
    onPreview,
    onCommit,
  } = props;
  const decimals = step < 0.1 ? 2 : step < 1 ? 1 : 0;
  const fine = step / 10;
  /** On the finest step, in decimal numbers: 0.7, not 0.7000000000000001. */
  const settle = (v: number): number => clamp(Number((Math.round(v / fine) * fine).toFixed(9)), min, max);
  const shown = `${signed && value > 0 ? '+' : ''}${value.toFixed(step >= 10 || Number.isInteger(value / step) ? decimals : decimals + 1).replace('-', '−')}${unit === '' || unit === '°' ? unit : ` ${unit}`}`;
  const [typed, showTyped] = useState<string | null>(null);
  // Beside the state: leaving the field follows at once on the key that ends the typing, before anything is drawn again.
  const typing = useRef<string | null>(null);
  const setTyped = (text: string | null): void => {
    typing.current = text;
    showTyped(text);
  };
  const row = useRef<HTMLDivElement>(null);
  const latest = useRef({ value, onCommit, settle });
  latest.current = { value, onCommit, settle };

  // React's wheel listeners are passive: a page must not scroll while a slider takes the wheel.
  useEffect(() => {
    const element = row.current!;
    const wheel = (event: WheelEvent): void => {
      if (!element.contains(document.activeElement)) return;
      event.preventDefault();
      const now = latest.current;
      now.onCommit(now.settle(now.value + (event.deltaY < 0 ? step : -step)));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [step]);

  const nudge = (event: KeyboardEvent): void => {
    const direction =
      event.key === 'ArrowUp' || event.key === 'ArrowRight' ? 1 : event.key === 'ArrowDown' || event.key === 'ArrowLeft' ? -1 : 0;
    if (direction === 0) return;
    event.preventDefault();
    event.stopPropagation();
    onCommit(settle(value + direction * (event.shiftKey ? step * 10 : event.altKey ? fine : step)));
  };

  const enter = (): void => {
    if (typing.current === null) return;
    const entered = parseNumber(typing.current);
    setTyped(null);
    if (entered !== null) onCommit(settle(entered));
  };

  const at = (v: number): number => Math.max(0, Math.min(100, ((v - usual[0]) / (usual[1] - usual[0])) * 100));
  const [from, to] = [at(neutral), at(value)].sort((a, b) => a - b) as [number, number];
  return (
    <div ref={row} onKeyDownCapture={(event) => (event.target as HTMLElement).getAttribute('type') === 'range' && nudge(event)}>
      <Row
        $stacked={stacked}
        style={dim ? { color: 'var(--ink2)' } : {}}
        {...(name === label ? {} : { 'aria-label': name })}
        value={Math.max(usual[0], Math.min(usual[1], value))}
        minValue={usual[0]}
        maxValue={usual[1]}
        step={fine}
        onChange={(v) => onPreview(settle(v as number))}
        onChangeEnd={(v) => onCommit(settle(v as number))}
      >
        {name === label ? (
          <Label>
            {label}
            {note && <Note>{note}</Note>}
          </Label>
        ) : (
          <span aria-hidden>
            {label}
            {note && <Note>{note}</Note>}
          </span>
        )}
        <Track $scale={scale} onDoubleClick={() => onCommit(neutral)}>
          {!scale && <Fill style={{ left: `${from}%`, width: `${to - from}%` }} />}
          <Thumb style={dim ? { background: 'var(--edge)' } : {}} />
        </Track>
        <Field
          aria-label={`${name}, number`}
          value={typed ?? shown}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={enter}
          onKeyDown={(event) => {
            if (event.key === 'Enter') event.currentTarget.blur();
            else if (event.key === 'Escape') {
              setTyped(null);
              event.currentTarget.blur();
            } else if (event.key.startsWith('ArrowU') || event.key.startsWith('ArrowD')) {
              nudge(event);
              setTyped(null);
            }
            event.stopPropagation();
          }}
        />
      </Row>
    </div>
  );
}
