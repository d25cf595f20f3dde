'use client';
import type { Driver } from '@umbo/core/adjust';
import { toneShare, type ToneLimits } from '@umbo/core/blend';
import { useRef } from 'react';
import type { LitUp } from '../../workers/protocol';
import { ToneHandles } from './ToneHandles';
import { moveToneEnd, TONE_ENDS, toneEnds } from './toneRange';

interface Props {
  label: string;
  /** Percent: nothing below the first, all from the second to the third, nothing above the fourth. */
  range: readonly number[];
  bins: Float32Array | null;
  by: Driver;
  of?: LitUp['of'];
  under?: number | null;
  onPreview: (range: number[]) => void;
  onCommit: (range: number[]) => void;
  onCancel: () => void;
}

/** Four handles for a soft range of percent. */
export function SoftRange({ label, range, bins, by, of, under, onPreview, onCommit, onCancel }: Props) {
  // From where the handles were before the drag: those that are pushed come back with it.
  const begun = useRef<ToneLimits | null>(null);
  const limits: ToneLimits = { low: [range[0]!, range[1]!], high: [range[2]!, range[3]!], smooth: true };
  return (
    <ToneHandles
      label={label}
      bins={bins}
      by={by}
      of={of}
      under={under}
      handles={TONE_ENDS.map((name, i) => ({ name, at: range[i]!, foot: name.endsWith('outer') }))}
      shape={(tone) => toneShare(limits, tone)}
      onCancel={() => {
        begun.current = null;
        onCancel();
      }}
      onMove={(name, at, done) => {
        begun.current ??= limits;
        const next = toneEnds(moveToneEnd(begun.current, name, at));
        if (!done) return onPreview(next);
        begun.current = null;
        onCommit(next);
      }}
    />
  );
}
