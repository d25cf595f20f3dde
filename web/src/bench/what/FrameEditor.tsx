'use client';
import { source, type FrameSettings } from '@umbo/core/content';
import { onLayer, type Layer } from '@umbo/core/document';
import { LabelledLine, Select } from '@/ui/controls';
import { useBench, useBenchStore } from '../state/context';
import { Settings } from '../desk/Settings';

/** Another photograph of the shoot, and how it lies on this one. */
export function FrameEditor({ layer, settings }: { layer: Layer; settings: FrameSettings }) {
  const store = useBenchStore();
  const photographs = useBench((state) => state.shoot.photographs);
  const kind = source('frame');
  const change = (values: object) => onLayer(layer.id, ({ what }) => void Object.assign(what.settings, values));
  if (photographs.length === 0) return <p>The shoot has no other photograph. Import one to lay it over this one.</p>;
  const options = photographs.map(({ id, name }) => [String(id), name] as const);
  const isThere = photographs.some(({ id }) => id === settings.photographId);
  return (
    <>
      <LabelledLine>
        Photograph
        <Select
          label="Photograph"
          hideLabel
          value={String(settings.photographId)}
          options={
            isThere
              ? options
              : [[String(settings.photographId), settings.photographId === 0 ? 'choose one' : 'not in this shoot'], ...options]
          }
          onChange={(id) =>
            store
              .getState()
              .commit(
                `${photographs.find((other) => String(other.id) === id)?.name ?? 'No photograph'} on ${layer.name}`,
                change({ photographId: Number(id) }),
              )
          }
        />
      </LabelledLine>
      <Settings
        settings={settings}
        defaults={kind.create(store.getState().photograph)}
        schema={kind.schema}
        controls={kind.controls}
        preview={(values) => store.getState().preview(change(values))}
        commit={(words, values) => store.getState().commit(`${words} on ${layer.name}`, change(values))}
      />
    </>
  );
}
