'use client';
import { Button } from './controls/Button';
import { Dialog, DialogActions } from './controls/Dialog';

/** What cannot be undone, before it is done. */
export interface Warning {
  title: string;
  words: string;
  /** On the button that does it. */
  button: string;
  then: () => void;
}

export function AskSure({ warning, onDone }: { warning: Warning | null; onDone: () => void }) {
  return (
    <Dialog title={warning?.title ?? ''} isOpen={warning !== null} onClose={onDone} role="alertdialog">
      <p>{warning?.words} This cannot be undone.</p>
      <DialogActions>
        <Button onPress={onDone}>Keep it</Button>
        <Button
          $primary
          onPress={() => {
            warning?.then();
            onDone();
          }}
        >
          {warning?.button}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
