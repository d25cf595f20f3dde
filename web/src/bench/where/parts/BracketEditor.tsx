'use client';
import { findPart, innerMask, type BracketPart } from '@umbo/core/mask';
import { Button } from '@/ui/controls/Button';
import { RefineEditor } from '../RefineEditor';
import type { PartProps } from '../partProps';
import { InnerLink } from './InnerLink';
import { PartLine } from './PartLine';
import { useBenchStore } from '../../state/context';

/** What stands in brackets: how much of it there is, and its own refining; or what it is linked to. */
export function BracketEditor({ layer, part }: PartProps<BracketPart>) {
  const store = useBenchStore();
  const { mask } = part;
  const [first] = mask.parts as readonly { id: string }[];
  return (
    <>
      {mask.link === undefined ? (
        <PartLine>
          <p>
            {mask.parts.length === 0
              ? 'Empty: what is added now goes into it.'
              : `${mask.parts.length} ${mask.parts.length === 1 ? 'part counts' : 'parts count'} as one. What is added now goes into it.`}
          </p>
          {first && <Button onPress={() => store.getState().select(layer.id, first.id)}>Go in</Button>}
        </PartLine>
      ) : (
        <InnerLink to={mask.link} partId={part.id} />
      )}
      <RefineEditor
        layer={layer}
        label="Own feather"
        mask={innerMask(part)!}
        find={(where) => {
          const draft = findPart(where, part.id);
          return draft && innerMask(draft);
        }}
      />
    </>
  );
}
