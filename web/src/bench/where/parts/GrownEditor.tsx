'use client';
import type { GrownPart } from '@umbo/core/mask';
import { Undo2 } from 'lucide-react';
import { Button, IconButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { Choice } from '@/ui/controls/Choice';
import { useBench, useBenchStore } from '../../state/context';
import type { PartProps } from '../partProps';
import { PartLine } from './PartLine';

const SIDES = [
  ['paint', 'Inside'],
  ['erase', 'Outside'],
] as const;

export function GrownEditor({ part: { strokes }, commit }: PartProps<GrownPart>) {
  const store = useBenchStore();
  const tool = useBench((state) => state.tool);
  const last = strokes.at(-1);
  const outside = strokes.some(({ erase }) => erase);
  const inside = strokes.some(({ erase }) => !erase);
  const missing = !inside ? 'Draw over what belongs to it.' : !outside ? 'Now draw outside: around it, and over what is like it.' : null;
  return (
    <>
      <PartLine>
        <Choice label="The next stroke is" value={tool} options={SIDES} onChange={(side) => store.getState().set({ tool: side })} />
        <p />
        <Hint text="Take the last stroke back">
          <IconButton
            aria-label="Take the last stroke back"
            isDisabled={!last}
            onPress={() => commit('Last stroke taken back', { strokes: strokes.slice(0, -1) })}
          >
            <Undo2 size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        <Button isDisabled={!last} onPress={() => commit('Strokes cleared', { strokes: [] })}>
          Clear
        </Button>
      </PartLine>
      <PartLine>
        <p>{missing ?? 'More strokes mend it: inside where it is missing, outside where it is too much.'}</p>
      </PartLine>
    </>
  );
}
