'use client';
import type { OutlinePart } from '@umbo/core/mask';
import { Button } from '@/ui/controls/Button';
import { useBenchStore } from '../../state/context';
import type { PartProps } from '../partProps';
import { PartLine } from './PartLine';

export function OutlineEditor({ part, commit }: PartProps<OutlinePart>) {
  const store = useBenchStore();
  return (
    <PartLine>
      <p>{part.shapes.length === 0 ? 'Draw around it, or set corners.' : 'Draw more shapes; what two overlap is outside.'}</p>
      <Button onPress={() => store.getState().set({ tool: 'outline' })}>Draw</Button>
      <Button isDisabled={part.shapes.length === 0} onPress={() => commit('Outline cleared', { shapes: [] })}>
        Clear
      </Button>
    </PartLine>
  );
}
