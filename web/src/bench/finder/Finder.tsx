'use client';
import { Search } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { Autocomplete, Button as AriaButton, Dialog, Input, TextField } from 'react-aria-components';
import styled from 'styled-components';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem } from '@/ui/controls/Menu';
import { useBench, useBenchStore } from '../state/context';
import { findables, search } from './findable';

const Field = styled(AriaButton)`
  display: flex;
  align-items: center;
  gap: 7px;
  min-height: 26px;
  padding: 3px 8px;
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  background: var(--raised);
  color: var(--ink2);
  white-space: nowrap;
  cursor: text;
  kbd {
    font: 400 11px/16px var(--mono);
    border: 1px solid var(--line);
    border-radius: var(--radius);
    padding: 0 5px;
  }
  @media (max-width: 1120px) {
    kbd {
      display: none;
    }
  }
`;
const Panel = styled(Dialog)`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  width: min(520px, 92vw);
  max-height: min(560px, 80vh);
  outline: none;
  input {
    width: 100%;
    padding: 9px 12px;
    border: 0;
    border-bottom: 1px solid var(--line);
    background: none;
    outline: none;
    font-size: 14px;
  }
`;
const Found = styled(Menu)`
  overflow: auto;
` as typeof Menu;
const Line = styled(MenuItem)`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 12px;
  b {
    font-weight: 600;
  }
  small {
    font-size: 11px;
    line-height: 15px;
    opacity: 0.75;
    grid-column: 1;
  }
  kbd {
    font: 400 11px/16px var(--mono);
    grid-row: 1 / 3;
    grid-column: 2;
    align-self: center;
  }
`;
const Nothing = styled.p`
  margin: 0;
  padding: 12px;
  color: var(--ink2);
`;
/** As many as are read through; more words narrow them down. */
const MOST = 40;

/** One field that finds everything the bench can do, says where it lives, and does it. */
export function Finder() {
  const store = useBenchStore();
  const isOpen = useBench((state) => state.searching);
  const button = useRef<HTMLButtonElement>(null);
  const setOpen = (searching: boolean): void => store.getState().set({ searching });
  return (
    <>
      <Field ref={button} onPress={() => setOpen(true)} aria-label="Find anything">
        <Search size={13} strokeWidth={1.5} aria-hidden /> Find anything <kbd>Space</kbd>
      </Field>
      <Floating triggerRef={button} isOpen={isOpen} onOpenChange={setOpen} placement="bottom end">
        <Panel aria-label="Find anything">
          <Searched close={() => setOpen(false)} />
        </Panel>
      </Floating>
    </>
  );
}

function Searched({ close }: { close: () => void }) {
  const store = useBenchStore();
  const [text, setText] = useState('');
  // What can be done does not change while this is open.
  const list = useMemo(() => findables(store.getState()), [store]);
  const found = search(list, text).slice(0, MOST);
  const run = (id: string): void => {
    close();
    // When the list has given the focus back to the stage.
    setTimeout(() => list.find((one) => one.id === id)?.run(store));
  };
  return (
    <Autocomplete inputValue={text} onInputChange={setText}>
      <TextField aria-label="Find anything" autoFocus>
        <Input placeholder="redder, teeth, cast, curves, multiply, crop…" />
      </TextField>
      <Found
        aria-label="What is found"
        onAction={(id) => run(String(id))}
        renderEmptyState={() => <Nothing>Nothing is called that. Try another word.</Nothing>}
      >
        {found.map(({ id, words, lives, keys }) => (
          <Line key={id} id={id} textValue={words}>
            <b>{words}</b>
            <small>{lives}</small>
            {keys !== undefined && <kbd>{keys}</kbd>}
          </Line>
        ))}
      </Found>
    </Autocomplete>
  );
}
