'use client';
import { eachLayer } from '@umbo/core/document';
import { useMemo } from 'react';
import styled from 'styled-components';
import { Choice } from '@/ui/controls/Choice';
import { Select } from '@/ui/controls/Select';
import type { ComparedSide } from '../../workers/protocol';
import type { Compared } from '../state/benchState';
import { useBench, useBenchStore } from '../state/context';

const Tag = styled.div`
  position: absolute;
  top: 8px;
  display: flex;
  align-items: center;
  gap: 8px;
  max-width: 44%;
  font-size: 11px;
  > span {
    padding: 1px 7px;
    background: #191919cc;
    color: #fff;
    border-radius: var(--radius);
    white-space: nowrap;
  }
  button {
    min-height: 22px;
  }
`;

const DIFFERENCES = [
  ['channels', 'Channels'],
  ['deltaE', 'ΔE00'],
] as const;

const UNPROOFED = ['unproofed', 'Without the proof'] as const;

/** Which two are compared, each chosen on the half of the stage that shows it: the result, the photograph, versions, the stack up to a layer, others of the shoot. */
export function CompareTags() {
  const store = useBenchStore();
  const compare = useBench((state) => state.look.compare);
  const difference = useBench((state) => state.look.difference);
  const blink = useBench((state) => state.look.blink);
  const versions = useBench((state) => state.versions);
  const layers = useBench((state) => state.committed.layers);
  const shoot = useBench((state) => state.shoot.photographs);
  const ownId = useBench((state) => state.photograph.id);
  const before = useBench(({ look: { against } }) =>
    against.kind === 'told' ? against.key : against.kind === 'layer' ? `layer ${against.id}` : against.kind,
  );
  const after = useBench(
    ({ look: { instead, peek } }) =>
      instead ?? (peek.upTo === null ? 'result' : peek.upTo === 'photograph' ? peek.upTo : `layer ${peek.upTo}`),
  );
  const proofed = useBench((state) => state.look.proof !== null);
  const options = useMemo(
    () => [
      ['photograph', 'The photograph'] as const,
      ...versions.map(({ id, name }) => [`version ${id}`, name] as const),
      ...Array.from(eachLayer(layers), ({ id, name }) => [`layer ${id}`, `Up to ${name}`] as const),
      ...shoot.flatMap(({ id, name }) => (id === ownId ? [] : [[`other ${id}`, name] as const])),
    ],
    [versions, layers, shoot, ownId],
  );
  if (compare === 'after') return null;
  const choose = (side: ComparedSide) => (key: string) => void store.getState().compareWith(side, key as Compared);
  const left = (
    <Select
      label="Compare with"
      hideLabel
      value={before}
      options={proofed ? [...options, UNPROOFED] : options}
      onChange={choose('before')}
    />
  );
  const right = (
    <Select label="What is compared" hideLabel value={after} options={[['result', 'The result'], ...options]} onChange={choose('after')} />
  );
  // A press on them is none on the photograph.
  const apart = { onPointerDown: (event: { stopPropagation: () => void }) => event.stopPropagation() };
  if (compare === 'difference')
    return (
      <Tag style={{ left: 10, maxWidth: '80%' }} {...apart}>
        {right}
        <span>against</span>
        {left}
        <span>{difference === 'deltaE' ? 'ΔE00; white is 10 and more' : 'four times; black is none'}</span>
        <Choice
          label="Difference"
          value={difference}
          options={DIFFERENCES}
          onChange={(next) => store.getState().setLook({ difference: next })}
        />
      </Tag>
    );
  return (
    <>
      <Tag style={{ left: 10, opacity: compare === 'blink' && blink === 'after' ? 0.4 : 1 }} {...apart}>
        {left}
      </Tag>
      {compare !== 'before' && (
        <Tag
          style={{
            ...(compare === 'beside' ? { left: 'calc(50% + 10px)' } : { right: 10 }),
            opacity: compare === 'blink' && blink === 'before' ? 0.4 : 1,
          }}
          {...apart}
        >
          {right}
        </Tag>
      )}
    </>
  );
}
