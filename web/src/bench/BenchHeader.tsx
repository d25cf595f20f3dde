'use client';
import { ChevronLeft, ChevronRight, MoreHorizontal, Redo2, Undo2 } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { useShallow } from 'zustand/react/shallow';
import { Button, IconButton } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { Menu, MenuItem, MenuLine } from '@/ui/controls/Menu';
import { FileInput } from '@/ui/FileInput';
import { Header } from '@/ui/Header';
import { Finder } from './finder/Finder';
import { CompareBar } from './stage/CompareBar';
import { openEdit, saveEdit } from './state/clipboard';
import { useBench, useBenchStore } from './state/context';
import { keepPlace, neighbours } from './state/neighbours';

const Pair = styled.div`
  display: flex;
  > button + button {
    margin-left: -1px;
  }
`;
/** Where one is, what the picture is compared with, and what is done with the whole edit. */
export function BenchHeader({ onKeys, onHandOver }: { onKeys: () => void; onHandOver: () => void }) {
  const store = useBenchStore();
  const photograph = useBench((state) => state.photograph);
  const shoot = useBench((state) => state.shoot);
  const { labels, position } = useBench((state) => state.history);
  return (
    <Header
      crumbs={[
        ['Shoots', '/'],
        [shoot.name, `/shoots/${shoot.id}`],
        [photograph.name, `/photographs/${photograph.id}`],
      ]}
    >
      <Neighbours />
      <CompareBar />
      <Hint text="Undo">
        <IconButton aria-label="Undo" isDisabled={position === 0} onPress={() => void store.getState().step(-1)}>
          <Undo2 size={15} strokeWidth={1.5} />
        </IconButton>
      </Hint>
      <Hint text="Redo">
        <IconButton aria-label="Redo" isDisabled={position === labels.length} onPress={() => void store.getState().step(1)}>
          <Redo2 size={15} strokeWidth={1.5} />
        </IconButton>
      </Hint>
      <Finder />
      <More onKeys={onKeys} />
      <Button $primary onPress={onHandOver}>
        Hand over
      </Button>
    </Header>
  );
}

/** To the photographs before and after this one; place and zoom stay. */
function Neighbours() {
  const store = useBenchStore();
  const router = useRouter();
  const { previous, next } = useBench(useShallow(neighbours));
  const leavingTo = useBench((state) => state.leavingTo);
  useEffect(() => {
    if (leavingTo === null) return;
    const { width, height } = document.querySelector('main')!.getBoundingClientRect();
    keepPlace(store.getState(), { width: width * devicePixelRatio, height: height * devicePixelRatio });
    router.push(`/photographs/${leavingTo}`);
  }, [store, router, leavingTo]);
  const button = (label: string, id: number | null, Icon: typeof ChevronLeft, keys: string) => (
    <Hint text={`${label} (${keys})`}>
      <IconButton aria-label={label} isDisabled={id === null} onPress={() => store.getState().set({ leavingTo: id })}>
        <Icon size={15} strokeWidth={1.5} />
      </IconButton>
    </Hint>
  );
  return (
    <Pair>
      {button('Previous photograph', previous, ChevronLeft, 'Page up')}
      {button('Next photograph', next, ChevronRight, 'Page down')}
    </Pair>
  );
}

/** What is done with the photograph and its edit as a whole, and seldom. */
function More({ onKeys }: { onKeys: () => void }) {
  const store = useBenchStore();
  const picker = useRef<HTMLInputElement>(null);
  const references = useBench((state) => state.references);
  return (
    <>
      <MenuTrigger>
        <IconButton aria-label="More">
          <MoreHorizontal size={15} strokeWidth={1.5} />
        </IconButton>
        <Floating>
          <Menu>
            <MenuItem onAction={() => store.getState().set({ references: references ? null : [] })}>
              {references ? 'Close the reference photographs' : 'Reference photographs'}
            </MenuItem>
            <MenuItem onAction={() => store.getState().set({ carrying: [] })}>Carry to other photographs…</MenuItem>
            <MenuLine />
            <MenuItem onAction={() => saveEdit(store.getState())}>Save the edit as a file</MenuItem>
            <MenuItem onAction={() => picker.current?.click()}>Open an edit…</MenuItem>
            <MenuLine />
            <MenuItem onAction={onKeys}>Keys</MenuItem>
          </Menu>
        </Floating>
      </MenuTrigger>
      <FileInput
        input={picker}
        label="An edit to open"
        accept=".json,application/json"
        onFile={(file) => void openEdit(store.getState, file)}
      />
    </>
  );
}
