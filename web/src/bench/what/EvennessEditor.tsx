'use client';
import { adjustment, type SettingsOf } from '@umbo/core/adjust';
import { findLayer } from '@umbo/core/document';
import type { Spreads } from '@umbo/core/measure';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import type { MeasuredOf } from '../../workers/protocol';
import { useBench, useBenchStore } from '../state/context';
import { measureInto } from '../state/measuring';
import type { ContentProps } from './contentProps';
import { Line, Quiet } from './editorParts';

const Spread = styled.table`
  border-spacing: 0;
  margin: 2px 0 6px;
  th {
    font-weight: 400;
    text-align: left;
    color: var(--ink2);
    padding: 1px 14px 1px 0;
  }
  td,
  th:not(:first-child) {
    text-align: right;
    min-width: 52px;
    font-variant-numeric: tabular-nums;
  }
`;

type EvennessNumbers = Omit<SettingsOf<'evenness'>, 'colours'>;

/** How varied the region is below the layer, and with it. */
function Reading({ layer }: Pick<ContentProps<SettingsOf<'evenness'>>, 'layer'>) {
  const store = useBenchStore();
  const committed = useBench((state) => state.committed);
  const [found, setFound] = useState<readonly [Spreads, Spreads] | null>(null);
  useEffect(() => {
    let isCurrent = true;
    const spreads = (of: MeasuredOf) => store.getState().measure({ kind: 'spreads', settings: {} }, layer.id, { of, quietly: true });
    Promise.all([spreads('below'), spreads('own')]).then(
      ([below, own]) => isCurrent && setFound(below && own && [below, own]),
      // The layer is gone, or the bench closes.
      () => undefined,
    );
    return () => void (isCurrent = false);
  }, [store, committed, layer.id]);
  if (!found) return null;
  const [before, after] = found;
  const rows = [
    ['Hue', `${before.hue.toFixed(1)}°`, `${after.hue.toFixed(1)}°`],
    ['Chroma', before.chroma.toFixed(4), after.chroma.toFixed(4)],
    ['Lightness', before.lightness.toFixed(3), after.lightness.toFixed(3)],
  ] as const;
  return (
    <Spread aria-label="Spread in the region">
      <thead>
        <tr>
          <th>Spread</th>
          <th>before</th>
          <th>after</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, from, to]) => (
          <tr key={name}>
            <th>{name}</th>
            <td>{from}</td>
            <td>{to}</td>
          </tr>
        ))}
      </tbody>
    </Spread>
  );
}

/** About which colours a region is made more even, or more varied: its own, as they are when they are taken. */
export function EvennessEditor({ layer, settings }: ContentProps<SettingsOf<'evenness'>>) {
  const store = useBenchStore();
  const [waiting, setWaiting] = useState(false);
  const take = async (): Promise<void> => {
    setWaiting(true);
    await measureInto(store.getState, layer, { kind: 'ownColours', settings: {} }, 'The region’s own colours', {
      is: ({ colours }) => colours.length === 0,
      words: 'The mask lets nothing in that has a colour of its own.',
    });
    setWaiting(false);
  };
  const isTaken = settings.colours.length > 0;
  // Whoever moves a slider first means the region as it is: its colours are taken then.
  const isMoved = useBench(({ committed }) => {
    const what = findLayer(committed, layer.id)?.what;
    return (
      what?.kind === 'evenness' &&
      what.settings.colours.length === 0 &&
      adjustment('evenness').controls.some(({ key }) => what.settings[key as keyof EvennessNumbers] !== 0)
    );
  });
  useEffect(() => {
    if (isMoved) void take();
    // Once for a move, whatever else changes.
  }, [isMoved]);
  return (
    <>
      <Quiet>
        {isTaken
          ? 'To the left the region is more even, to the right more varied: over wide areas, and from pixel to pixel.'
          : 'About the colours of what the mask lets in it is made even: they are taken when a slider is first moved, or now.'}
      </Quiet>
      <Line>
        <Button $primary={!isTaken} isDisabled={waiting} onPress={() => void take()}>
          {isTaken ? 'Take its colours anew' : 'Take the region’s own colours'}
        </Button>
      </Line>
      <Reading layer={layer} />
    </>
  );
}
