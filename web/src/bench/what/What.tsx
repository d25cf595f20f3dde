'use client';
import { memo } from 'react';
import type { Layer } from '@umbo/core/document';
import { kindName } from '../state/actions';
import { sameFor } from '../state/context';
import { ContentEditor } from './ContentEditor';
import { ColourwaysEditor, GroupEditor } from './GroupEditors';
import { Section } from '../desk/Section';

/** What a layer changes, or brings. */
export const What = memo(function What({ layer }: { layer: Layer }) {
  const { what } = layer;
  const editor =
    what.kind === 'group' ? (
      <GroupEditor layer={layer} content={what} />
    ) : what.kind === 'colourways' ? (
      <ColourwaysEditor layer={layer} content={what} />
    ) : (
      <ContentEditor key={layer.id} layer={layer} what={what} />
    );
  return (
    <Section title="What" note={kindName(what)}>
      {editor}
    </Section>
  );
}, sameFor('what'));
