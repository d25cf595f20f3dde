'use client';
import type { Colour } from '@umbo/core/colour';
import { toneOf } from '@umbo/core/measure';
import { AlertTriangle } from 'lucide-react';
import { useSpace } from '../state/context';

/** Says when a sample was taken where light or shade has eaten the colour. */
export function ToneHint({ colour }: { colour: Colour }) {
  const tone = toneOf(useSpace(), colour);
  if (tone === 'middle tone') return null;
  return (
    <p role="note" style={{ display: 'flex', gap: 6, alignItems: 'center', color: 'var(--ink2)', whiteSpace: 'nowrap' }}>
      <AlertTriangle size={13} strokeWidth={1.5} aria-hidden /> Sampled from a {tone}: a middle tone shows more of the colour.
    </p>
  );
}
