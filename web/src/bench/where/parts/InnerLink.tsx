'use client';
import { findMaskOwner } from '@umbo/core/document';
import { Link2 } from 'lucide-react';
import { Button } from '@/ui/controls/Button';
import { useBench, useBenchStore } from '../../state/context';
import { ownInner } from '../../state/masks';
import { PartLine } from './PartLine';

/** The live link of a mask within a part: what it leads to, and the ways from there. */
export function InnerLink({ to, partId }: { to: string; partId: string }) {
  const store = useBenchStore();
  const giver = useBench((state) => findMaskOwner(state.document, to)?.name ?? 'a layer that is gone');
  return (
    <PartLine>
      <Link2 size={13} strokeWidth={1.5} aria-hidden />
      <p>Live: the mask of {giver}</p>
      <Button onPress={() => store.getState().select(to)}>Go there</Button>
      <Button onPress={() => ownInner(store.getState(), partId)}>Make it a copy</Button>
    </PartLine>
  );
}
