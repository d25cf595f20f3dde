'use client';
import { sourceKind, type FrameSettings } from '@umbo/core/content';
import type { AnySettings } from '@umbo/core/base';
import { Button } from '@/ui/controls/Button';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Select } from '@/ui/controls/Select';
import { Align } from './exposures/Align';
import { blendIn, fuse, keepByBrush } from './exposures/aligning';
import { useBench, useBenchStore } from '../state/context';
import type { ContentProps } from './contentProps';
import { Settings } from '../desk/Settings';

/** Another photograph of the shoot, and how it lies on this one. */
export function FrameEditor({ layer, settings, preview, commit }: ContentProps<FrameSettings>) {
  const store = useBenchStore();
  const photographs = useBench((state) => state.shoot.photographs);
  const kind = sourceKind('frame');
  if (photographs.length === 0) return <p>The shoot has no other photograph. Import one to lay it over this one.</p>;
  const options = photographs.map(({ sha256, name }) => [sha256, name] as const);
  const isThere = photographs.some(({ sha256 }) => sha256 === settings.photograph);
  return (
    <>
      <LabelledLine>
        Photograph
        <Select
          label="Photograph"
          hideLabel
          value={settings.photograph}
          options={isThere ? options : [[settings.photograph, settings.photograph === '' ? 'choose one' : 'not in this shoot'], ...options]}
          onChange={(photograph) =>
            commit(photographs.find(({ sha256 }) => sha256 === photograph)?.name ?? 'No photograph', { photograph })
          }
        />
      </LabelledLine>
      <Settings<AnySettings>
        settings={settings}
        defaults={kind.create(store.getState().photograph)}
        schema={kind.schema}
        controls={kind.controls}
        preview={preview}
        commit={commit}
      />
      {isThere && (
        <Align layer={layer}>
          <Button onPress={() => blendIn(store.getState, layer, 'lights')}>Blend in its lights</Button>
          <Button onPress={() => blendIn(store.getState, layer, 'darks')}>Blend in its darks</Button>
          <Button onPress={() => fuse(store.getState, layer)}>Fuse</Button>
          <Button onPress={() => keepByBrush(store.getState, layer, 'add')}>Paint it in</Button>
          <Button onPress={() => keepByBrush(store.getState, layer, 'cut')}>Paint it out</Button>
        </Align>
      )}
    </>
  );
}
