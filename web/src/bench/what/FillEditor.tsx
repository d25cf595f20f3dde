'use client';
import { source, type FillSettings } from '@umbo/core/content';
import { onLayer, type Layer } from '@umbo/core/document';
import { ColourEditor } from '../colour/ColourEditor';
import { useBench, useBenchStore } from '../state/context';
import { Palettes } from '../colour/Palettes';
import { Settings } from '../desk/Settings';
import { StopsEditor } from './StopsEditor';

/** A fill: its colour, or the stops of its gradient. */
export function FillEditor({ layer, settings }: { layer: Layer; settings: FillSettings }) {
  const store = useBenchStore();
  const chosen = useBench((state) => state.stop);
  const kind = source('fill');
  const { photograph } = store.getState();
  const onFill = (change: (fill: FillSettings) => void) =>
    onLayer(layer.id, ({ what }) => {
      if (what.kind === 'fill') change(what.settings);
    });
  const stop = settings.stops[Math.min(chosen, settings.stops.length - 1)]!;
  return (
    <>
      <Settings
        settings={settings}
        defaults={kind.create(photograph)}
        schema={kind.schema}
        controls={kind.controls}
        preview={(values) => store.getState().preview(onFill((fill) => void Object.assign(fill, values)))}
        commit={(words, values) =>
          store.getState().commit(
            `${words} on ${layer.name}`,
            onFill((fill) => void Object.assign(fill, values)),
          )
        }
      />
      {settings.shape === 'colour' ? (
        <ColourEditor
          label="Fill colour"
          colour={settings.colour}
          onPreview={(colour) => store.getState().preview(onFill((fill) => void Object.assign(fill.colour, colour)))}
          onCommit={(colour) =>
            store.getState().commit(
              `Colour on ${layer.name}`,
              onFill((fill) => void Object.assign(fill.colour, colour)),
            )
          }
        />
      ) : (
        <StopsEditor stops={settings.stops} on={layer.name} recipe={(change) => onFill((fill) => change(fill.stops))} />
      )}
      <Palettes colour={settings.shape === 'colour' ? settings.colour : stop.colour} />
    </>
  );
}
