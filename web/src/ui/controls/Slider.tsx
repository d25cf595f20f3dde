'use client';
import { useEffect, useRef, type KeyboardEvent } from 'react';
import { Label, Slider as AriaSlider, SliderThumb, SliderTrack } from 'react-aria-components';
import styled, { css } from 'styled-components';
import { numberRange, type Unit } from './numberRange';
import { LABEL } from './LabelledLine';
import { NumberText } from './NumberText';

const Row = styled(AriaSlider)<{ $stacked: boolean; $bare: boolean; $tight: boolean }>`
  display: grid;
  grid-template-columns: ${(p) => (p.$bare ? '' : `${LABEL}px`)} 1fr 58px;
  gap: 8px;
  align-items: center;
  min-height: 24px;
  ${(p) =>
    p.$tight &&
    css`
      grid-template-columns: 1fr 32px;
      gap: 3px;
    `}
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
const Track = styled(SliderTrack)<{ $scale: string | undefined }>`
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
        background: ${(HUES as Record<string, string>)[p.$scale] ?? 'var(--scale)'};
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
  /** The hues that the track runs through, or the colours, as CSS writes a gradient. */
  scale?: string | undefined;
  /** For narrow places: the track under the words. */
  stacked?: boolean;
  /** Without its label in sight: what stands beside it tells what it is. */
  bare?: boolean;
  /** For a table of sliders: with a short number. */
  tight?: boolean;
  /** Where a double-click brings it, and where its bar begins. */
  neutral: number;
  unit?: Unit;
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
    tight = false,
    bare = tight,
    neutral,
    onPreview,
    onCommit,
  } = props;
  const range = numberRange(props);
  const row = useRef<HTMLDivElement>(null);
  const latest = useRef({ value, onCommit, range });
  latest.current = { value, onCommit, range };

  // React's wheel listeners are passive: a page must not scroll while a slider takes the wheel.
  useEffect(() => {
    const element = row.current!;
    const wheel = (event: WheelEvent): void => {
      if (!element.contains(document.activeElement)) return;
      event.preventDefault();
      const now = latest.current;
      now.onCommit(now.range.settle(now.value + (event.deltaY < 0 ? step : -step)));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [step]);

  const nudge = (event: KeyboardEvent): void => {
    if (!event.key.startsWith('Arrow')) return;
    event.preventDefault();
    event.stopPropagation();
    onCommit(range.stepped(value, event));
  };

  const at = (v: number): number => Math.max(0, Math.min(100, ((v - usual[0]) / (usual[1] - usual[0])) * 100));
  const [from, to] = [at(neutral), at(value)].sort((a, b) => a - b) as [number, number];
  return (
    <div ref={row} onKeyDownCapture={(event) => (event.target as HTMLElement).getAttribute('type') === 'range' && nudge(event)}>
      <Row
        $stacked={stacked}
        $bare={bare}
        $tight={tight}
        style={dim ? { color: 'var(--ink2)' } : {}}
        {...(name === label && !bare ? {} : { 'aria-label': name })}
        value={Math.max(usual[0], Math.min(usual[1], value))}
        minValue={usual[0]}
        maxValue={usual[1]}
        step={step / 10}
        onChange={(v) => onPreview(range.settle(v as number))}
        onChangeEnd={(v) => onCommit(range.settle(v as number))}
      >
        {bare ? null : name === label ? (
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
        <Track
          // As a variable: a rule of its own for each gradient would pile up.
          $scale={scale && (scale in HUES ? scale : 'own')}
          style={scale && !(scale in HUES) ? { ['--scale' as string]: scale } : {}}
          onDoubleClick={() => onCommit(neutral)}
        >
          {!scale && <Fill style={{ left: `${from}%`, width: `${to - from}%` }} />}
          <Thumb style={dim ? { background: 'var(--edge)' } : {}} />
        </Track>
        <NumberText name={name} value={value} range={range} onCommit={onCommit} {...(tight && { width: 32 })} />
      </Row>
    </div>
  );
}
