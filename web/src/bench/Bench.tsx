'use client';
import { useEffect, useState } from 'react';
import { HelpCircle, Redo2, Undo2 } from 'lucide-react';
import styled from 'styled-components';
import type { DocumentState } from '@umbo/data';
import { HandOverDialog } from '@/handOver/HandOverDialog';
import { Button, Choice, Dialog, DialogActions, Hint, IconButton } from '@/ui/controls';
import { Header } from '@/ui/Header';
import { Message } from '@/ui/Message';
import { addLayer } from './actions';
import { Cards } from './Cards';
import { BenchContext, useBench, useBenchStore, useLayer } from './context';
import { Footer } from './Footer';
import { How } from './How';
import { ShortcutSheet } from './ShortcutSheet';
import { keysOf, shortcuts } from './shortcuts';
import { Side } from './Side';
import { isControl, Stage } from './Stage';
import { createBench, type PhotographInfo } from './store';
import { What } from './What';
import { Where } from './Where';
import type { Compare } from '../workers/protocol';

const Frame = styled.div`
  height: 100vh;
  display: flex;
  flex-direction: column;
  font-size: 12px;
  line-height: 16px;
  overflow: hidden;
`;
const Middle = styled.div`
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 222px minmax(0, 1fr) 348px;
`;
const Desk = styled.aside`
  border-left: 1px solid var(--line);
  overflow-y: auto;
  min-height: 0;
  scrollbar-width: thin;
`;
const Empty = styled.div`
  padding: 40px 28px;
  display: grid;
  gap: 12px;
  justify-items: center;
  text-align: center;
  color: var(--ink2);
`;

const COMPARE: readonly (readonly [Compare, string])[] = [
  ['after', 'After'],
  ['before', 'Before'],
  ['wipe', 'Wipe'],
];

interface Props {
  photograph: PhotographInfo;
  shoot: { id: number; name: string };
  edit: DocumentState;
}

/** The screen where one photograph is worked on. */
export function Bench({ photograph, shoot, edit }: Props) {
  const [store] = useState(() => createBench(photograph, edit));
  const [isolated, setIsolated] = useState(true);
  useEffect(() => setIsolated(crossOriginIsolated), []);
  if (!isolated)
    return (
      <Message title="The bench cannot run at this address">
        <p>Browsers give pages shared memory only under a secure address. Open Umbo at http://127.0.0.1 or through HTTPS.</p>
      </Message>
    );
  return (
    <BenchContext value={store}>
      <BenchFrame shoot={shoot} />
    </BenchContext>
  );
}

function BenchFrame({ shoot }: { shoot: Props['shoot'] }) {
  const store = useBenchStore();
  const photograph = useBench((state) => state.photograph);
  const compare = useBench((state) => state.look.compare);
  const { labels, position } = useBench((state) => state.history);
  const [handingOver, setHandingOver] = useState(false);
  const [keysShown, setKeysShown] = useState(false);

  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      const keys = keysOf(event);
      // Single keys belong to a control that has the focus; undo and redo work everywhere but in a text.
      if (event.target instanceof HTMLInputElement && event.target.type === 'text') return;
      const inOverlay = document.querySelector('[role=dialog], [role=alertdialog], [role=menu], [role=listbox]') !== null;
      // With a control in focus, Delete is meant for it and not for the layer.
      if (inOverlay || (keys === 'delete' && isControl(event.target))) return;
      if (keys === '?') {
        event.preventDefault();
        setKeysShown(true);
        return;
      }
      const shortcut = shortcuts.find((candidate) => candidate.keys === keys);
      if (!shortcut) return;
      event.preventDefault();
      shortcut.run(store.getState(), store);
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [store]);

  return (
    <Frame>
      <Header
        crumbs={[
          ['Shoots', '/'],
          [shoot.name, `/shoots/${shoot.id}`],
          [photograph.name, `/photographs/${photograph.id}`],
        ]}
      >
        <Choice label="Compare" value={compare} options={COMPARE} onChange={(value) => store.getState().setLook({ compare: value })} />
        <Hint text="Undo">
          <IconButton aria-label="Undo" isDisabled={position === 0} onPress={() => void store.getState().go(position - 1)}>
            <Undo2 size={15} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        <Hint text="Redo">
          <IconButton aria-label="Redo" isDisabled={position === labels.length} onPress={() => void store.getState().go(position + 1)}>
            <Redo2 size={15} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        <Hint text="Keys (?)">
          <IconButton aria-label="Keys" onPress={() => setKeysShown(true)}>
            <HelpCircle size={15} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        <Button $primary onPress={() => setHandingOver(true)}>
          Hand over
        </Button>
      </Header>
      <Cards />
      <Middle>
        <Side />
        <Stage />
        <LayerDesk />
      </Middle>
      <Footer />
      <HandOverDialog
        photograph={photograph}
        isOpen={handingOver}
        onClose={() => setHandingOver(false)}
        kept={() => store.getState().settled()}
      />
      <ShortcutSheet isOpen={keysShown} onClose={() => setKeysShown(false)} />
      <ConflictDialog />
    </Frame>
  );
}

function LayerDesk() {
  const store = useBenchStore();
  const layer = useLayer();
  if (!layer)
    return (
      <Desk aria-label="Desk">
        <Empty>
          <p>A layer changes the colour of one region. Say where, what and how.</p>
          <Button $primary onPress={() => addLayer(store.getState())}>
            New layer
          </Button>
        </Empty>
      </Desk>
    );
  return (
    <Desk aria-label="Desk">
      <Where layer={layer} />
      <What layer={layer} />
      <How layer={layer} />
    </Desk>
  );
}

function ConflictDialog() {
  const store = useBenchStore();
  const conflict = useBench((state) => state.conflict);
  return (
    <Dialog title="Changed in two windows" isOpen={conflict !== null} onClose={() => undefined} role="alertdialog">
      <p>
        {conflict?.layers.map((name) => `“${name}”`).join(', ')} {conflict?.layers.length === 1 ? 'was' : 'were'} changed here and in
        another window. Which version shall go on? The other one stays in the history.
      </p>
      <DialogActions>
        <Button onPress={() => store.getState().decide(null)}>The other window’s</Button>
        <Button $primary onPress={() => conflict && store.getState().decide(conflict.mine)}>
          This window’s
        </Button>
      </DialogActions>
    </Dialog>
  );
}
