'use client';
import type { PickPart } from '@umbo/core/mask';
import { Undo2 } from 'lucide-react';
import { Button, IconButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import type { PartProps } from '../partProps';
import { PartLine } from './PartLine';

export function PickEditor({ part, commit }: PartProps<PickPart>) {
  const last = part.picks.at(-1);
  return (
    <PartLine>
      <p>
        {last
          ? `${part.picks.length} picked; the last one ${last.away ? 'leaves out' : 'catches'}.`
          : 'Click on the photograph to pick what is alike.'}
      </p>
      <Hint text="Take the last pick back">
        <IconButton
          aria-label="Take the last pick back"
          isDisabled={!last}
          onPress={() => commit('Last pick taken back', { picks: part.picks.slice(0, -1) })}
        >
          <Undo2 size={14} strokeWidth={1.5} />
        </IconButton>
      </Hint>
      <Button isDisabled={!last} onPress={() => commit('Picks cleared', { picks: [] })}>
        Clear
      </Button>
    </PartLine>
  );
}
