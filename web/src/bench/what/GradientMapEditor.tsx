'use client';
import type { SettingsOf } from '@umbo/core/adjust';
import { onLayer } from '@umbo/core/document';
import { useState } from 'react';
import { Button } from '@/ui/controls/Button';
import { useBenchStore } from '../state/context';
import { measureInto } from '../state/measuring';
import type { ContentProps } from './contentProps';
import { Line } from './editorParts';
import { RampHills } from './RampHills';
import { StopsEditor } from './StopsEditor';

export function GradientMapEditor({ layer, settings }: ContentProps<SettingsOf<'gradientMap'>>) {
  const store = useBenchStore();
  const [waiting, setWaiting] = useState(false);
  const { driver } = settings;
  const derive = async (): Promise<void> => {
    setWaiting(true);
    await measureInto(store.getState, layer, { kind: 'toneStops', settings: { driver } }, 'Stops from the region', {
      is: (stops) => stops.length < 2,
      words: 'What the mask lets in is of one tone: there is no gradient in it.',
    });
    setWaiting(false);
  };
  return (
    <>
      <RampHills layerId={layer.id} driver={driver} />
      <StopsEditor
        stops={settings.stops}
        on={layer.name}
        recipe={(change) =>
          onLayer(layer.id, ({ what }) => {
            if (what.kind === 'gradientMap') change(what.settings.stops);
          })
        }
      />
      <Line>
        <Button isDisabled={waiting} onPress={() => void derive()}>
          Stops from the region
        </Button>
      </Line>
    </>
  );
}
