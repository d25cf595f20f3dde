'use client';
import type { FillSettings } from '@umbo/core/content';
import { onLayer } from '@umbo/core/document';
import { ColourFields } from '../colour/ColourFields';
import { useBench } from '../state/context';
import { Palettes } from '../colour/Palettes';
import type { ContentProps } from './contentProps';
import { StopsEditor } from './StopsEditor';

/** A fill: its colour, or the stops of its gradient. */
export function FillEditor({ layer, settings, preview, commit }: ContentProps<FillSettings>) {
  const chosen = useBench((state) => state.stop);
  const onFill = (change: (fill: FillSettings) => void) =>
    onLayer(layer.id, ({ what }) => {
      if (what.kind === 'fill') change(what.settings);
    });
  const stop = settings.stops[Math.min(chosen, settings.stops.length - 1)]!;
  return (
    <>
      {settings.shape === 'colour' ? (
        <ColourFields
          label="Fill colour"
          colour={settings.colour}
          onPreview={(colour) => preview({ colour: [...colour] })}
          onCommit={(colour) => commit('Colour', { colour: [...colour] })}
        />
      ) : (
        <StopsEditor stops={settings.stops} on={layer.name} recipe={(change) => onFill((fill) => change(fill.stops))} />
      )}
      <Palettes colour={settings.shape === 'colour' ? settings.colour : stop.colour} />
    </>
  );
}
