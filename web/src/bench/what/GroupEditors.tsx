'use client';
import { onLayer, type ColourwayContent, type GroupContent, type Layer } from '@umbo/core/document';
import { useState } from 'react';
import { Radio, RadioGroup } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { chooseColourway, stepColourway } from '../state/actions';
import { useBenchStore } from '../state/context';
import { ColourwayTargets } from './ColourwayTargets';

const JOINS = [
  ['through', 'Through'],
  ['apart', 'Apart'],
] as const;

/** How a group's layers meet what is below the group. */
export function GroupEditor({ layer, content }: { layer: Layer; content: GroupContent }) {
  const store = useBenchStore();
  const { apart } = content.settings;
  return (
    <>
      <Choice
        label="How the group joins"
        value={apart ? 'apart' : 'through'}
        options={JOINS}
        onChange={(value) =>
          store.getState().commit(
            `${layer.name} ${value}`,
            onLayer(layer.id, ({ what }) => {
              if (what.kind === 'group') what.settings.apart = value === 'apart';
            }),
          )
        }
      />
      <p style={{ color: 'var(--ink2)', marginTop: 6 }}>
        {content.layers.length === 0
          ? 'The group is empty: drop cards on its card.'
          : apart
            ? 'Its layers blend with each other first; what comes out joins the picture below.'
            : 'Its layers act on the picture below the group, within the group’s mask and opacity.'}
      </p>
    </>
  );
}

const Ways = styled(RadioGroup)`
  border: 1px solid var(--line);
  border-radius: var(--radius);
  background: var(--raised);
  overflow: hidden;
  margin-bottom: 8px;
`;
const Way = styled(Radio)`
  display: block;
  padding: 4px 10px;
  cursor: default;
  &[data-hovered] {
    background: var(--well);
  }
  &[data-selected] {
    background: var(--ink);
    color: var(--on-ink);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--ink);
    outline-offset: -2px;
  }
`;
const Line = styled.div`
  display: flex;
  gap: 6px;
`;

/** A colourway set: which of its alternatives shows. */
export function ColourwaysEditor({ layer, content }: { layer: Layer; content: ColourwayContent }) {
  const store = useBenchStore();
  const [aiming, setAiming] = useState(false);
  return (
    <>
      <Ways aria-label="The alternative that shows" value={content.settings.shown} onChange={(id) => chooseColourway(store.getState(), id)}>
        {content.layers.map(({ id, name }) => (
          <Way key={id} value={id}>
            {name}
          </Way>
        ))}
      </Ways>
      <Line>
        <Button onPress={() => stepColourway(store.getState(), 1)}>Next</Button>
        <Button onPress={() => store.getState().showAlternatives(layer.id)}>All beside each other</Button>
        <Button onPress={() => setAiming(true)}>To targets…</Button>
      </Line>
      <ColourwayTargets set={layer} alternatives={content.layers} isOpen={aiming} onClose={() => setAiming(false)} />
    </>
  );
}
