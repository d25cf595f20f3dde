'use client';
import { findLayer } from '@umbo/core/document';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { useBench, useBenchStore } from '../state/context';

const Box = styled.div`
  position: absolute;
  right: 10px;
  top: 10px;
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 3px 4px 3px 10px;
  background: var(--panel);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
`;

/** Says when the stage shows less than the whole edit. */
export function PeekNote() {
  const store = useBenchStore();
  const isCompared = useBench(({ look }) => look.compare !== 'after' && look.compare !== 'before');
  const words = useBench(({ look: { peek }, document }) => {
    const name = (id: string): string => `“${findLayer(document, id)?.name ?? ''}”`;
    if (peek.solo !== null) return `Only ${name(peek.solo)}`;
    if (peek.unmasked) return `${name(peek.unmasked)} without its mask`;
    if (isCompared) return null; // said on the half of the stage that shows it
    return peek.upTo === null ? null : peek.upTo === 'photograph' ? 'Before all layers' : `After ${name(peek.upTo)}`;
  });
  if (words === null) return null;
  return (
    <Box role="status" style={isCompared ? { top: 40 } : undefined} onPointerDown={(event) => event.stopPropagation()}>
      {words}
      <Button onPress={() => store.getState().setLook({ peek: { solo: null, upTo: null } })}>Show all</Button>
    </Box>
  );
}
