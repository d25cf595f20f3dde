'use client';
import { eachLayer } from '@umbo/core/document';
import { useEffect, useMemo } from 'react';
import styled from 'styled-components';
import { Choice } from '@/ui/controls/Choice';
import { Select } from '@/ui/controls/Select';
import { useBench, useBenchStore } from '../state/context';
import type { Compare, ComparedSide } from '../../workers/protocol';
import type { Compared } from '../state/benchState';

const Box = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
`;
const With = styled.div`
  width: 124px;
`;

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

/** Compares any two of: the result, the photograph, versions, the stack up to a layer, other photographs of the shoot. */
export function CompareBar() {
  const store = useBenchStore();
  const compare = useBench((state) => state.look.compare);
  const versions = useBench((state) => state.versions);
  const layers = useBench((state) => state.committed.layers);
  const shoot = useBench((state) => state.shoot.photographs);
  const ownId = useBench((state) => state.photograph.id);
  const before = useBench(({ look: { against } }) =>
    against.kind === 'told' ? against.key : against.kind === 'layer' ? `layer ${against.id}` : 'photograph',
  );
  const after = useBench(
    ({ look: { instead, peek } }) =>
      instead ?? (peek.upTo === null ? 'result' : peek.upTo === 'photograph' ? peek.upTo : `layer ${peek.upTo}`),
  );
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
  const options = useMemo(
    () => [
      ['photograph', 'the photograph'] as const,
      ...versions.map(({ id, name }) => [`version ${id}`, name] as const),
      ...Array.from(eachLayer(layers), ({ id, name }) => [`layer ${id}`, `the stack up to ${name}`] as const),
      ...shoot.flatMap(({ id, name }) => (id === ownId ? [] : [[`other ${id}`, name] as const])),
    ],
    [versions, layers, shoot, ownId],
  );
  const choose = (side: ComparedSide) => (key: string) => void store.getState().compareWith(side, key as Compared);
  return (
    <Box>
      <Choice label="Compare" value={compare} options={COMPARE} onChange={(next) => store.getState().setLook({ compare: next })} />
      {isOpen && (
        <With>
          <Select label="Compare with" hideLabel value={before} options={options} onChange={choose('before')} />
        </With>
      )}
      {isOpen && compare !== 'before' && (
        <With>
          <Select
            label="What is compared"
            hideLabel
            value={after}
            options={[['result', 'the result'], ...options]}
            onChange={choose('after')}
          />
        </With>
      )}
    </Box>
  );
}
