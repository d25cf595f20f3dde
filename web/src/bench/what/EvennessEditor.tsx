'use client';
import type { SettingsOf } from '@umbo/core/adjust';
import { useState } from 'react';
import { Button } from '@/ui/controls/Button';
import { useBenchStore } from '../state/context';
import { measureInto } from '../state/measuring';
import type { ContentProps } from './contentProps';
import { Line, Quiet } from './editorParts';

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
  return (
    <>
      <Quiet>
        {isTaken
          ? 'To the left the region is more even, to the right more varied: over wide areas, and from pixel to pixel.'
          : 'First take the colours of what the mask lets in: about them it is made even.'}
      </Quiet>
      <Line>
        <Button $primary={!isTaken} isDisabled={waiting} onPress={() => void take()}>
          {isTaken ? 'Take its colours anew' : 'Take the region’s own colours'}
        </Button>
      </Line>
    </>
  );
}
