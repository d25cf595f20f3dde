'use client';
import { DRIVERS, type Driver, type SettingsOf } from '@umbo/core/adjust';
import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Select } from '@/ui/controls/Select';
import { cssOf } from '@/ui/hexOf';
import { useBenchStore, useSpace } from '../state/context';
import { measureInto } from '../state/measuring';
import type { ContentProps } from './contentProps';
import { Line, Quiet } from './editorParts';
import { RampHills } from './RampHills';

const RampBar = styled.div`
  height: 22px;
  border: 1px solid var(--line);
  border-radius: 2px;
  margin: 2px 6px 4px;
`;

export function EvenRampEditor({ layer, settings, commit }: ContentProps<SettingsOf<'evenRamp'>>) {
  const space = useSpace();
  const store = useBenchStore();
  const [waiting, setWaiting] = useState(false);
  const derive = async (driver: Driver, words: string): Promise<void> => {
    setWaiting(true);
    await measureInto(store.getState, layer, { kind: 'ramp', settings: { driver } }, words, {
      is: (colours) => colours.length === 0,
      words: 'The mask lets nothing in that a ramp could be derived from.',
    });
    setWaiting(false);
  };
  const { colours } = settings;
  return (
    <>
      <LabelledLine>
        Driven by
        <Select
          label="Driven by"
          hideLabel
          value={settings.driver}
          options={DRIVERS}
          onChange={(driver) => {
            const words = `Driven by ${DRIVERS.find(([id]) => id === driver)![1].toLowerCase()}`;
            // Colours that were derived for another driver would belong to other values.
            if (colours.length > 0) void derive(driver, words);
            else commit(words, { driver });
          }}
        />
      </LabelledLine>
      <RampHills layerId={layer.id} driver={settings.driver} />
      {colours.length > 0 ? (
        <RampBar
          role="img"
          aria-label="Colours from the lowest to the highest value"
          style={{
            background: `linear-gradient(to right in oklab, ${[...colours, colours.at(-1)!].map((colour) => cssOf(colour, space)).join(', ')})`,
          }}
        />
      ) : (
        <Quiet>Derive a colour for each value from what the mask lets in.</Quiet>
      )}
      <Line>
        <Button $primary={colours.length === 0} isDisabled={waiting} onPress={() => void derive(settings.driver, 'Ramp from the region')}>
          {colours.length === 0 ? 'Derive the ramp' : 'Derive it anew'}
        </Button>
        {colours.length > 0 && <Button onPress={() => commit('Without a ramp', { colours: [] })}>Take it away</Button>}
      </Line>
    </>
  );
}
