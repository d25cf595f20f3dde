'use client';
import { Button } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { useBench, useBenchStore } from './state/context';

/** Which of two windows' changes go on, where both changed the same. */
export function ConflictDialog() {
  const store = useBenchStore();
  const conflict = useBench((state) => state.conflict);
  if (!conflict) return null;
  const { names, fault, found } = conflict;
  const where = found ? 'in changes of an earlier window that had not reached the server' : 'in another window';
  const [theirs, mine] = found ? ['What is here now', 'The earlier changes'] : ['The other window’s', 'This window’s'];
  return (
    <Dialog title={found ? 'Changes found again' : 'Changed in two windows'} isOpen onClose={() => undefined} role="alertdialog">
      {fault ? (
        <p>
          This photograph was changed here and {where}, and both sets of changes together cannot be kept: {fault}. Which version shall go
          on? The other one stays in the history.
        </p>
      ) : (
        <p>
          {names.map((name) => `“${name}”`).join(', ')} {names.length === 1 ? 'was' : 'were'} changed here and {where}. Which values shall
          go on? The others stay in the history; everything else is kept from both.
        </p>
      )}
      <DialogActions>
        <Button onPress={() => store.getState().decide('theirs')}>{theirs}</Button>
        <Button $primary onPress={() => store.getState().decide('mine')}>
          {mine}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
