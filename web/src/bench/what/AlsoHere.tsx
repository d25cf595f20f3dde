'use client';
import { adjustments } from '@umbo/core/adjust';
import { isLayer, type MaskOwner } from '@umbo/core/document';
import styled from 'styled-components';
import { useShallow } from 'zustand/react/shallow';
import { RoundButton } from '../desk/Chips';
import { addLayer } from '../state/actions';
import { useBench, useBenchStore } from '../state/context';

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
  margin-top: 8px;
  padding-top: 7px;
  border-top: 1px solid var(--line);
  color: var(--ink2);
`;

/** How many kinds are offered by name. */
const OFFERED = 5;

/** Changes of the same region: a press adds a layer whose mask is linked to this one. The kinds used last come first. */
export function AlsoHere({ owner }: { owner: MaskOwner }) {
  const store = useBenchStore();
  const recent = useBench(useShallow((state) => state.recentKinds));
  if (owner.where.parts.length === 0 && owner.where.link === undefined) return null;
  const own = isLayer(owner) ? owner.what.kind : null;
  const rank = (kind: string): number => (recent.includes(kind) ? recent.indexOf(kind) : recent.length);
  const offered = adjustments
    .filter(({ kind }) => kind !== own)
    .toSorted((a, b) => rank(a.kind) - rank(b.kind))
    .slice(0, OFFERED);
  return (
    <Row role="group" aria-label="More on the same mask">
      {own === null ? 'New layer here' : 'Also here'}
      {offered.map(({ kind, name }) => (
        <RoundButton key={kind} onPress={() => addLayer(store.getState(), kind, { sameMask: true })}>
          {name}
        </RoundButton>
      ))}
      <RoundButton onPress={() => store.getState().set({ offering: 'same mask' })}>…</RoundButton>
    </Row>
  );
}
