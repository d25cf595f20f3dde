'use client';
import { findLayer } from '@umbo/core/document';
import { Button } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { pasteCopied } from '../state/clipboard';
import { useBench, useBenchStore } from '../state/context';

/** Asks what becomes of layers that were copied from, or pasted on, this photograph before. */
export function PasteDialog() {
  const store = useBenchStore();
  const pasting = useBench((state) => state.pasting);
  const committed = useBench((state) => state.committed);
  if (!pasting) return null;
  const { copied, present } = pasting;
  const names = [...present.values()].map((id) => `“${findLayer(committed, id)?.name ?? ''}”`);
  const done = (paste: (() => void) | null): void => {
    store.getState().set({ pasting: null });
    paste?.();
  };
  return (
    <Dialog title={present.size === 1 ? 'This layer is here already' : 'These layers are here already'} isOpen onClose={() => done(null)}>
      <p>
        {names.slice(0, 4).join(', ')}
        {names.length > 4 && ` and ${names.length - 4} more`} {names.length === 1 ? 'is' : 'are'} on this photograph. Replaced layers keep
        their places; what linked to their masks goes on doing so.
      </p>
      <DialogActions>
        <Button onPress={() => done(null)}>Cancel</Button>
        <Button onPress={() => done(() => void pasteCopied(store.getState, copied))}>Add copies</Button>
        <Button $primary onPress={() => done(() => void pasteCopied(store.getState, copied, present))}>
          Replace
        </Button>
      </DialogActions>
    </Dialog>
  );
}
