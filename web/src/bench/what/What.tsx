'use client';
import { memo } from 'react';
import type { Layer } from '@umbo/core/document';
import { sameFor, useBench } from '../state/context';
import { DeskSection } from '../desk/DeskSection';
import { whatSummary } from '../desk/summaries';
import { AlsoHere } from './AlsoHere';
import { ContentEditor } from './ContentEditor';
import { FoundFor } from './FoundFor';
import { SharedSettings } from './SharedSettings';
import { ColourwaysEditor, GroupEditor } from './GroupEditors';

/** What a layer changes, or brings. */
export const What = memo(function What({ layer }: { layer: Layer }) {
  const { what } = layer;
  const photograph = useBench((state) => state.photograph);
  const editor =
    what.kind === 'group' ? (
      <GroupEditor layer={layer} content={what} />
    ) : what.kind === 'colourways' ? (
      <ColourwaysEditor layer={layer} content={what} />
    ) : (
      <ContentEditor key={layer.id} layer={layer} what={what} />
    );
  return (
    <DeskSection section="What" layer={layer} summary={whatSummary(layer, photograph)}>
      <FoundFor layer={layer} />
      <SharedSettings layer={layer} />
      {editor}
      <AlsoHere owner={layer} />
    </DeskSection>
  );
}, sameWhat);

const sameContent = sameFor('what');
function sameWhat(a: { layer: Layer }, b: { layer: Layer }): boolean {
  const isMasked = ({ where }: Layer): boolean => where.parts.length > 0 || where.link !== undefined;
  const sameOf = (key: 'shared' | 'foundBy' | 'treatment'): boolean => a.layer[key] === b.layer[key];
  return sameContent(a, b) && sameOf('shared') && sameOf('foundBy') && sameOf('treatment') && isMasked(a.layer) === isMasked(b.layer);
}
