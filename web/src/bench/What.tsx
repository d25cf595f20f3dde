'use client';
import { memo } from 'react';
import { adjustment, onLayer, type Layer } from '@umbo/core';
import { sameFor, useBenchStore } from './context';
import { Section } from './Section';
import { Settings } from './Settings';

/** What a layer changes. */
export const What = memo(function What({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const kind = adjustment(layer.what.kind);
  const change = (values: object) => onLayer(layer.id, ({ what }) => void Object.assign(what.settings, values));
  return (
    <Section title="What" note={kind.name}>
      <Settings
        settings={layer.what.settings}
        defaults={kind.defaults}
        schema={kind.schema}
        controls={kind.controls}
        preview={(values) => store.getState().preview(change(values))}
        commit={(words, values) => store.getState().commit(`${words} on ${layer.name}`, change(values))}
      />
    </Section>
  );
}, sameFor('what'));
