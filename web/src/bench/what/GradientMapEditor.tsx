'use client';
import type { SettingsOf } from '@umbo/core/adjust';
import { onLayer } from '@umbo/core/document';
import type { ContentProps } from './contentProps';
import { RampHills } from './RampHills';
import { StopsEditor } from './StopsEditor';

export function GradientMapEditor({ layer, settings }: ContentProps<SettingsOf<'gradientMap'>>) {
  return (
    <>
      <RampHills layerId={layer.id} driver={settings.driver} />
      <StopsEditor
        stops={settings.stops}
        on={layer.name}
        recipe={(change) =>
          onLayer(layer.id, ({ what }) => {
            if (what.kind === 'gradientMap') change(what.settings.stops);
          })
        }
      />
    </>
  );
}
