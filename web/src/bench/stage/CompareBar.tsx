'use client';
import { useEffect } from 'react';
import { Select } from '@/ui/controls/Select';
import { useBench, useBenchStore } from '../state/context';
import type { Compare } from '../../workers/protocol';

const COMPARE: readonly (readonly [Compare, string])[] = [
  ['after', 'After'],
  ['before', 'Before'],
  ['wipe', 'Wipe'],
  ['beside', 'Beside'],
  ['difference', 'Difference'],
  ['blink', 'Blink'],
];

/** How long each of two pictures is seen while they blink. */
const BLINK_MS = 650;

/** How two pictures are compared; which two is chosen on the stage. */
export function CompareBar() {
  const store = useBenchStore();
  const compare = useBench((state) => state.look.compare);
  const isOpen = compare !== 'after';
  useEffect(() => {
    if (isOpen) void store.getState().refreshVersions();
  }, [store, isOpen]);
  useEffect(() => {
    if (compare !== 'blink') return;
    const { setLook } = store.getState();
    const timer = setInterval(() => setLook({ blink: store.getState().look.blink === 'before' ? 'after' : 'before' }), BLINK_MS);
    return () => clearInterval(timer);
  }, [store, compare]);
  return (
    <Select hideLabel label="Compare" value={compare} options={COMPARE} onChange={(next) => store.getState().setLook({ compare: next })} />
  );
}
