'use client';
import { source, type FrameSettings, type SourceContent } from '@umbo/core/content';
import type { Layer } from '@umbo/core/document';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Progress } from '@/ui/controls/Progress';
import { Select } from '@/ui/controls/Select';
import { alignLayers, blendIn, cropToAll, frameLayers, stopAligning } from './aligning';
import { useBench, useBenchStore } from '../state/context';
import type { ContentProps } from './contentProps';
import { Settings } from '../desk/Settings';

/** Another photograph of the shoot, and how it lies on this one. */
export function FrameEditor({ layer, settings, preview, commit }: ContentProps<FrameSettings>) {
  const store = useBenchStore();
  const photographs = useBench((state) => state.shoot.photographs);
  const kind = source<Extract<SourceContent, { kind: 'frame' }>>('frame');
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
      <Settings
        settings={settings}
        defaults={kind.create(store.getState().photograph)}
        schema={kind.schema}
        controls={kind.controls}
        preview={preview}
        commit={commit}
      />
      {isThere && <Align layer={layer} />}
    </>
  );
}

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  margin-top: 8px;
  > [role='progressbar'] {
    flex: 1;
  }
`;

/** Lays the frame exactly over the photograph, or all frames at once. */
function Align({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const aligning = useBench((state) => state.aligning);
  const count = useBench((state) => frameLayers(state).length);
  const now = store.getState;
  if (aligning !== null)
    return (
      <Row>
        <Progress label="Aligned so far" share={aligning} />
        <Button onPress={() => stopAligning(now)}>Stop</Button>
      </Row>
    );
  return (
    <Row>
      <Button onPress={() => void alignLayers(now, [layer.id])}>Align to the photograph</Button>
      {count > 1 && (
        <Button
          onPress={() =>
            void alignLayers(
              now,
              frameLayers(now()).map(({ id }) => id),
            )
          }
        >
          Align all {count} frames
        </Button>
      )}
      <Button onPress={() => blendIn(now, layer, 'lights')}>Blend in its lights</Button>
      <Button onPress={() => blendIn(now, layer, 'darks')}>Blend in its darks</Button>
      <Button onPress={() => cropToAll(now)}>Crop to what {count > 1 ? 'all' : 'both'} cover</Button>
    </Row>
  );
}
