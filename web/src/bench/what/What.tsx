'use client';
import { memo } from 'react';
import { isSource, source, type SourceContent } from '@umbo/core/content';
import { onLayer, type Layer } from '@umbo/core/document';
import { kindName } from '../state/actions';
import { AdjustmentEditor } from './AdjustmentEditor';
import { sameFor, useBenchStore } from '../state/context';
import { FillEditor } from './FillEditor';
import { FrameEditor } from './FrameEditor';
import { ColourwaysEditor, GroupEditor } from './GroupEditors';
import { PaintEditor } from './PaintEditor';
import { Section } from '../desk/Section';
import { Settings } from '../desk/Settings';

/** What a layer changes, or brings. */
export const What = memo(function What({ layer }: { layer: Layer }) {
  const { what } = layer;
  const editor =
    what.kind === 'fill' ? (
      <FillEditor layer={layer} settings={what.settings} />
    ) : what.kind === 'paint' ? (
      <PaintEditor layer={layer} settings={what.settings} />
    ) : what.kind === 'frame' ? (
      <FrameEditor layer={layer} settings={what.settings} />
    ) : what.kind === 'group' ? (
      <GroupEditor layer={layer} content={what} />
    ) : what.kind === 'colourways' ? (
      <ColourwaysEditor layer={layer} content={what} />
    ) : isSource(what) ? (
      <SourceEditor layer={layer} what={what} />
    ) : (
      <AdjustmentEditor key={layer.id} layer={layer} what={what} />
    );
  return (
    <Section title="What" note={kindName(what)}>
      {editor}
    </Section>
  );
}, sameFor('what'));

/** The settings of a source as its room describes them. */
function SourceEditor({ layer, what }: { layer: Layer; what: SourceContent }) {
  const store = useBenchStore();
  const room = source(what.kind);
  const change = (values: object) => onLayer(layer.id, (draft) => void Object.assign(draft.what.settings, values));
  return (
    <Settings
      settings={what.settings as Record<string, unknown>}
      defaults={room.create(store.getState().photograph) as Record<string, unknown>}
      schema={room.schema}
      controls={room.controls as never}
      preview={(values) => store.getState().preview(change(values))}
      commit={(words, values) => store.getState().commit(`${words} on ${layer.name}`, change(values))}
    />
  );
}
