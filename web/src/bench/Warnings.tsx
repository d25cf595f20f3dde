'use client';
import type { Warning } from '@umbo/core/warnings';
import { useEffect } from 'react';
import { Dialog, DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { useShallow } from 'zustand/react/shallow';
import { Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { useBench, useBenchStore } from './state/context';
import { easeWarning, openWarnings, showWarning } from './state/warnings';

const List = styled(Dialog)`
  width: 340px;
  padding: 10px 12px;
  outline: none;
  font-size: 12px;
  line-height: 16px;
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    max-height: 50vh;
    overflow-y: auto;
  }
  li {
    padding: 8px 0;
    border-bottom: 1px solid var(--line);
  }
  li:last-child {
    border-bottom: 0;
  }
  p {
    margin: 0 0 6px;
  }
  li > div {
    display: flex;
    gap: 6px;
  }
`;

/** The edit is looked over when nothing has been done for so long. */
const AFTER_MS = 1200;
/** It is tried so often, with growing pauses, before one is told that it cannot be. */
const ATTEMPTS = 4;

/** A quiet count of what may have gone too far; pressed, a list. */
export function Notes() {
  const store = useBenchStore();
  const warnings = useBench(useShallow(openWarnings));
  const dismissed = useBench((state) => state.warnings.length - openWarnings(state).length);
  const committed = useBench((state) => state.committed);
  const isPainted = useBench((state) => state.painted > 0);
  useEffect(() => {
    if (!isPainted) return;
    let timer: ReturnType<typeof setTimeout>;
    const look = (attempt: number): void => {
      const again = (error: Error): void => {
        if (attempt < ATTEMPTS) timer = setTimeout(() => look(attempt + 1), AFTER_MS * 2 ** attempt);
        else store.getState().set({ notice: `The edit could not be looked over for notes: ${error.message}` });
      };
      store.getState().findWarnings().catch(again);
    };
    timer = setTimeout(() => look(1), AFTER_MS);
    return () => clearTimeout(timer);
  }, [store, committed, isPainted]);
  if (warnings.length + dismissed === 0) return null;
  return (
    <DialogTrigger>
      <Button aria-label={`Notes: ${warnings.length}`}>
        {warnings.length === 0 ? 'No notes' : warnings.length === 1 ? '1 note' : `${warnings.length} notes`}
      </Button>
      <Floating placement="top end">
        <List aria-label="Notes">
          {({ close }) => (
            <>
              <ul>
                {warnings.map((warning) => (
                  <Line key={warning.key} warning={warning} close={close} />
                ))}
              </ul>
              {dismissed > 0 && (
                <Button onPress={() => store.getState().set({ dismissed: [] })}>
                  {dismissed === 1 ? 'Bring the one put away back' : `Bring the ${dismissed} put away back`}
                </Button>
              )}
            </>
          )}
        </List>
      </Floating>
    </DialogTrigger>
  );
}

function Line({ warning, close }: { warning: Warning; close: () => void }) {
  const store = useBenchStore();
  return (
    <li>
      <p>{warning.words}.</p>
      <div>
        <Button
          onPress={() => {
            showWarning(store.getState(), warning);
            close();
          }}
        >
          Show
        </Button>
        <Button onPress={() => void easeWarning(store.getState, warning)}>
          {warning.key.startsWith('emptyMask') ? 'Switch off' : 'Ease the layer'}
        </Button>
        <Button onPress={() => store.getState().set({ dismissed: [...store.getState().dismissed, warning.key] })}>Put away</Button>
      </div>
    </li>
  );
}
