'use client';
/** What editors of content have in common. */
import { Pipette } from 'lucide-react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { useBench, useBenchStore } from '../state/context';

export const Line = styled.div`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 8px;
  min-height: 30px;
  margin-top: 4px;
`;
export const Quiet = styled.p`
  margin: 4px 0;
  color: var(--ink2);
`;

/** Turns the sample tool on and off. */
export function SampleButton({ children }: { children: string }) {
  const store = useBenchStore();
  const sampling = useBench((state) => state.tool === 'sample');
  return (
    <Button aria-pressed={sampling} $primary={sampling} onPress={() => store.getState().set({ tool: sampling ? 'move' : 'sample' })}>
      <Pipette size={14} strokeWidth={1.5} aria-hidden /> {children}
    </Button>
  );
}

/** A line above an editor about where its settings come from. */
export const QuietRow = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 28px;
  margin-bottom: 4px;
  color: var(--ink2);
  span {
    flex: 1;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
