'use client';
import { findLayer } from '@umbo/core/document';
import styled from 'styled-components';
import type { BenchState } from '../state/benchState';
import { useBench } from '../state/context';

const Tag = styled.span`
  position: absolute;
  top: 10px;
  padding: 1px 7px;
  background: #191919cc;
  color: #fff;
  border-radius: var(--radius);
  font-size: 11px;
`;

/** What is compared, on the halves of the stage that show it. */
export function CompareTags() {
  const compare = useBench((state) => state.look.compare);
  const blink = useBench((state) => state.look.blink);
  const before = useBench(beforeWords);
  const after = useBench(({ look: { instead }, ...state }) => toldWords(instead, state) ?? 'After');
  if (compare === 'after') return null;
  if (compare === 'difference')
    return (
      <Tag style={{ left: 10 }}>
        Difference{after === 'After' ? '' : ` of ${after}`} to {before === 'Before' ? 'the photograph' : before}, four times: black is none
      </Tag>
    );
  const seen = {
    before: compare !== 'blink' || blink === 'before',
    after: compare !== 'before' && (compare !== 'blink' || blink === 'after'),
  };
  return (
    <>
      {seen.before && <Tag style={{ left: 10 }}>{before}</Tag>}
      {seen.after && <Tag style={compare === 'beside' ? { left: 'calc(50% + 10px)' } : { right: 10 }}>{after}</Tag>}
    </>
  );
}

/** A version, or another photograph, by the key under which it was told; null for anything else. */
function toldWords(key: string | null, { versions, shoot }: Pick<BenchState, 'versions' | 'shoot'>): string | null {
  const [kind, id] = key?.split(' ') ?? [];
  if (kind === 'version') return versions.find((one) => one.id === Number(id))?.name ?? 'Version';
  return kind === 'other' ? (shoot.photographs.find((one) => one.id === Number(id))?.name ?? 'Another photograph') : null;
}

function beforeWords(state: BenchState): string {
  const { against } = state.look;
  if (against.kind === 'photograph') return 'Before';
  if (against.kind === 'told') return toldWords(against.key, state)!;
  return `up to ${findLayer(state.committed, against.id)?.name ?? ''}`;
}
