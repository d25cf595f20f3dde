'use client';
import { useEffect, useRef, useState } from 'react';
import { useRouter } from 'next/navigation';
import { useShallow } from 'zustand/react/shallow';
import { ChevronLeft, ChevronRight, CopyCheck, FileJson, HelpCircle, Images, Redo2, Undo2 } from 'lucide-react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { childrenOf, eachLayer, type UmboDocument } from '@umbo/core/document';
import type { DocumentState } from '@umbo/data';
import { CarryDialog } from '@/carry/CarryDialog';
import { HandOverDialog } from '@/handOver/HandOverDialog';
import { Button, IconButton } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { Hint } from '@/ui/controls/Hint';
import { Menu, MenuItem } from '@/ui/controls/Menu';
import { keptChosen } from '@/ui/chosen';
import { FileInput } from '@/ui/FileInput';
import { Header } from '@/ui/Header';
import { Message } from '@/ui/Message';
import { Alternatives } from './cards/Alternatives';
import { Cards } from './cards/Cards';
import { PasteDialog } from './cards/PasteDialog';
import { openEdit, saveEdit } from './state/clipboard';
import { CompareBar } from './stage/CompareBar';
import { BenchContext, useBench, useBenchStore, useLayer, useMaskOwner } from './state/context';
import { CropDesk } from './desk/CropDesk';
import { rememberDesk } from './desk/deskMemory';
import { ReadingDesk } from './desk/ReadingDesk';
import { Footer } from './Footer';
import { KeepTreatment } from './KeepTreatment';
import { How } from './how/How';
import { NewLayerMenu } from './cards/NewLayerMenu';
import { References } from './side/References';
import { ShortcutSheet } from './ShortcutSheet';
import { Panels } from './Panels';
import { keysOf, shortcuts } from './shortcuts';
import { Side } from './side/Side';
import { isControl } from './stage/isControl';
import { Stage } from './stage/Stage';
import type { PhotographInfo, ShootInfo } from './state/benchState';
import { browserPorts } from './state/browserPorts';
import type { CameAlong } from './state/copied';
import { keepPlace, neighbours } from './state/neighbours';
import { createBench } from './state/store';

import { ToolBar } from './tools/ToolBar';
import { AlsoHere } from './what/AlsoHere';
import { What } from './what/What';
import { RegionHead } from './where/RegionHead';
import { Where } from './where/Where';

const Frame = styled.div`
  height: 100vh;
  display: flex;
  flex-direction: column;
  font-size: 12px;
  line-height: 16px;
  overflow: hidden;
`;
const Desk = styled.aside`
  height: 100%;
  display: flex;
  flex-direction: column;
  border-left: 1px solid var(--line);
`;
// Positioned, so that what controls hide within it is cut off with it: else the page itself would scroll.
const Sections = styled.div`
  position: relative;
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
`;
const Here = styled.div`
  padding: 0 14px 10px;
`;
const Pair = styled.div`
  display: flex;
  > button + button {
    margin-left: -1px;
  }
`;
const Empty = styled.div`
  padding: 40px 28px;
  display: grid;
  gap: 12px;
  justify-items: center;
  text-align: center;
  color: var(--ink2);
`;

interface Props {
  database: string;
  photograph: PhotographInfo;
  shoot: ShootInfo;
  edit: DocumentState;
  /** What came of carrying to it, when it is opened to look at that. */
  carried: CameAlong | null;
}

/** The photographs that were chosen on the contact sheet, when several were. */
const shownChosen = (shootId: number): readonly number[] => {
  const { chosen } = keptChosen(shootId);
  return chosen.length > 1 ? chosen : [];
};

const alternativesIn = ({ layers }: UmboDocument): number =>
  [...eachLayer(layers)].reduce((sum, layer) => sum + (layer.what.kind === 'colourways' ? childrenOf(layer).length : 0), 0);

/** The screen where one photograph is worked on. */
export function Bench({ database, photograph, shoot, edit, carried }: Props) {
  const [store] = useState(() => createBench(database, photograph, shoot, edit, browserPorts, carried));
  const [isolated, setIsolated] = useState(true);
  useEffect(() => setIsolated(crossOriginIsolated), []);
  useEffect(() => rememberDesk(store), [store]);
  if (!isolated)
    return (
      <Message title="The bench cannot run at this address">
        <p>Browsers give pages shared memory only under a secure address. Open Umbo at http://127.0.0.1 or through HTTPS.</p>
      </Message>
    );
  return (
    <BenchContext value={store}>
      <BenchFrame />
    </BenchContext>
  );
}

function BenchFrame() {
  const store = useBenchStore();
  const photograph = useBench((state) => state.photograph);
  const shoot = useBench((state) => state.shoot);
  const references = useBench((state) => state.references);
  const database = useBench((state) => state.database);
  const carrying = useBench((state) => state.carrying);
  const colourways = useBench(({ committed }) => alternativesIn(committed));
  const { labels, position } = useBench((state) => state.history);
  const [handingOver, setHandingOver] = useState(false);
  const [keysShown, setKeysShown] = useState(false);

  // A tab that is closed takes what is being measured with it.
  const measuring = useBench((state) => state.measuring > 0);
  useEffect(() => {
    if (!measuring) return;
    const ask = (event: BeforeUnloadEvent): void => event.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [measuring]);

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
      // What is marked on the page is copied by the browser.
      if (keys === 'mod+c' && getSelection()?.isCollapsed === false) return;
      const shortcut = shortcuts.find((candidate) => candidate.keys === keys);
      if (!shortcut) return;
      event.preventDefault();
      shortcut.run(store.getState(), store);
    };
    // A closed list would take a letter as the beginning of an option: on the bench letters are keys, wherever the focus was left.
    const pressOnList = (event: KeyboardEvent): void => {
      const onClosedList = event.target instanceof HTMLElement && event.target.closest('button[aria-haspopup=listbox]') !== null;
      if (!onClosedList || !/^\S$/.test(event.key) || event.ctrlKey || event.metaKey) return;
      event.stopPropagation();
      press(event);
    };
    addEventListener('keydown', pressOnList, { capture: true });
    addEventListener('keydown', press);
    return () => {
      removeEventListener('keydown', pressOnList, { capture: true });
      removeEventListener('keydown', press);
    };
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
        <Hint text="Reference photographs">
          <IconButton
            aria-label="Reference photographs"
            aria-pressed={references !== null}
            onPress={() => store.getState().set({ references: references ? null : [] })}
          >
            <Images size={15} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        <Hint text="Carry to other photographs">
          <IconButton aria-label="Carry to other photographs" onPress={() => store.getState().set({ carrying: [] })}>
            <CopyCheck size={15} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        <EditFile />
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
      <Panels
        side={<Side />}
        stage={
          <Stage>
            <ToolBar />
          </Stage>
        }
        references={references && <References />}
        desk={<LayerDesk />}
      />
      <Footer />
      <HandOverDialog
        shootId={shoot.id}
        photograph={photograph}
        colourways={colourways}
        isOpen={handingOver}
        onClose={() => setHandingOver(false)}
        kept={() => store.getState().settled()}
      />
      <CarryDialog
        database={database}
        shootId={shoot.id}
        from={photograph.id}
        to={shownChosen(shoot.id)}
        layers={carrying ?? []}
        isOpen={carrying !== null}
        onClose={() => store.getState().set({ carrying: null })}
        kept={() => store.getState().settled()}
      />
      <KeepTreatment />
      <ShortcutSheet isOpen={keysShown} onClose={() => setKeysShown(false)} />
      <ConflictDialog />
      <Alternatives />
      <PasteDialog />
    </Frame>
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

/** The edit as a file: for another machine, or to look inside. */
function EditFile() {
  const store = useBenchStore();
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <MenuTrigger>
        <Hint text="The edit as a file">
          <IconButton aria-label="The edit as a file">
            <FileJson size={15} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        <Floating>
          <Menu onAction={(key) => (key === 'save' ? saveEdit(store.getState()) : picker.current?.click())}>
            <MenuItem id="save">Save the edit as a file</MenuItem>
            <MenuItem id="open">Open an edit…</MenuItem>
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

function LayerDesk() {
  return (
    <Desk aria-label="Desk">
      <ReadingDesk />
      <DeskOfLayer />
    </Desk>
  );
}

function DeskOfLayer() {
  const layer = useLayer();
  const owner = useMaskOwner();
  const isCropping = useBench((state) => state.tool === 'crop');
  if (isCropping) return <CropDesk />;
  if (!layer && owner)
    return (
      <>
        <Sections>
          <RegionHead region={owner} />
          <Where layer={owner} />
          <Here>
            <AlsoHere owner={owner} />
          </Here>
        </Sections>
      </>
    );
  if (!layer)
    return (
      <>
        <Empty>
          <p>A layer changes the colour of one region. Say where, what and how.</p>
          <NewLayerMenu>
            <Button $primary>New layer</Button>
          </NewLayerMenu>
        </Empty>
      </>
    );
  return (
    <>
      <Sections>
        <Where layer={layer} />
        <What layer={layer} />
      </Sections>
      <How layer={layer} />
    </>
  );
}

function ConflictDialog() {
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
