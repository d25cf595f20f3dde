'use client';
import { useState } from 'react';
import { Button } from './controls/Button';
import { Dialog, DialogActions } from './controls/Dialog';
import { TextField } from './controls/TextField';

/** A question that is answered in words. */
export interface Question {
  title: string;
  label: string;
  /** What the answer is at first. */
  text: string;
  /** On the button that gives the answer. */
  button: string;
  /** More than one for longer texts. */
  lines?: number;
  /** Whether nothing is an answer. */
  blank?: boolean;
  then: (text: string) => void;
}

export function AskWords({ question, onDone }: { question: Question | null; onDone: () => void }) {
  return (
    <Dialog title={question?.title ?? ''} isOpen={question !== null} onClose={onDone}>
      {question && <Answer question={question} onDone={onDone} />}
    </Dialog>
  );
}

function Answer({ question, onDone }: { question: Question; onDone: () => void }) {
  const [text, setText] = useState(question.text);
  const missing = !question.blank && !text.trim();
  return (
    <form
      style={{ display: 'grid', gap: 14 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (missing) return;
        question.then(text.trim());
        onDone();
      }}
    >
      <TextField label={question.label} value={text} onChange={setText} autoFocus {...(question.lines && { lines: question.lines })} />
      <DialogActions>
        <Button onPress={onDone}>Cancel</Button>
        <Button $primary type="submit" isDisabled={missing}>
          {question.button}
        </Button>
      </DialogActions>
    </form>
  );
}
