'use client';
import { memo } from 'react';
import { adjustment, isSource, onLayer, source, type Layer } from '@umbo/core';
import { kindName } from './actions';
import { sameFor, useBenchStore } from './context';
import { FillEditor } from './FillEditor';
import { FrameEditor } from './FrameEditor';
import { ColourwaysEditor, GroupEditor } from './GroupEditors';
import { LevelsEditor } from './LevelsEditor';
import { PaintEditor } from './PaintEditor';
import { Section } from './Section';
import { Settings } from './Settings';

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
    ) : what.kind === 'levels' ? (
      <LevelsEditor layer={layer} settings={what.settings} />
    ) : what.kind === 'group' ? (
      <GroupEditor layer={layer} content={what} />
    ) : what.kind === 'colourways' ? (
      <ColourwaysEditor layer={layer} content={what} />
    ) : (
      <PlainEditor layer={layer} />
    );
  return (
    <Section title="What" note={kindName(what)}>
      {editor}
    </Section>
  );
}, sameFor('what'));

/** The settings as their room describes them. */
function PlainEditor({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const { what } = layer;
  if (what.kind === 'group' || what.kind === 'colourways') return null;
  const change = (values: object) => onLayer(layer.id, (draft) => void Object.assign(draft.what.settings, values));
  const room = isSource(what)
    ? { ...source(what.kind), defaults: source(what.kind).create(store.getState().photograph) }
    : adjustment(what.kind);
  return (
    <Settings
      settings={what.settings as Record<string, unknown>}
      defaults={room.defaults as Record<string, unknown>}
      schema={room.schema}
      controls={room.controls as never}
      preview={(values) => store.getState().preview(change(values))}
      commit={(words, values) => store.getState().commit(`${words} on ${layer.name}`, change(values))}
    />
  );
}
