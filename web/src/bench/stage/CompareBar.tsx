'use client';
import { eachLayer } from '@umbo/core/document';
import { useEffect, useMemo } from 'react';
import styled from 'styled-components';
import { Choice } from '@/ui/controls/Choice';
import { Select } from '@/ui/controls/Select';
import { useBench, useBenchStore } from '../state/context';
import type { Against, Compare } from '../../workers/protocol';

const Box = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
`;
const With = styled.div`
  width: 142px;
`;

const COMPARE: readonly (readonly [Compare, string])[] = [
  ['after', 'After'],
  ['before', 'Before'],
  ['wipe', 'Wipe'],
  ['beside', 'Beside'],
  ['difference', 'Difference'],
];

/** Compares the picture with the photograph, with a version, or with the stack up to a layer. */
export function CompareBar() {
  const store = useBenchStore();
  const compare = useBench((state) => state.look.compare);
  const against = useBench((state) => state.look.against);
  const versions = useBench((state) => state.versions);
  const versionId = useBench((state) => state.versionId);
  const layers = useBench((state) => state.committed.layers);
  const isOpen = compare !== 'after';
  useEffect(() => {
    if (isOpen) void store.getState().refreshVersions();
  }, [store, isOpen]);
  const options = useMemo(
    () => [
      ['photograph', 'the photograph'] as const,
      ...versions.map(({ id, name }) => [`version ${id}`, name] as const),
      ...Array.from(eachLayer(layers), ({ id, name }) => [`layer ${id}`, `the stack up to ${name}`] as const),
    ],
    [versions, layers],
  );
  const value = against.kind === 'photograph' ? 'photograph' : against.kind === 'version' ? `version ${versionId}` : `layer ${against.id}`;
  const choose = (key: string): void => {
    const [kind, id] = key.split(/ (.*)/) as [Against['kind'], string];
    if (kind === 'version') void store.getState().compareWith(Number(id));
    else store.getState().setLook({ against: kind === 'layer' ? { kind, id } : { kind: 'photograph' } });
  };
  return (
    <Box>
      <Choice label="Compare" value={compare} options={COMPARE} onChange={(next) => store.getState().setLook({ compare: next })} />
      {isOpen && (
        <With>
          <Select label="Compare with" hideLabel value={value} options={options} onChange={choose} />
        </With>
      )}
    </Box>
  );
}
