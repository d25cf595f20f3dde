'use client';
import type { PhotographSummary } from '@umbo/data';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { CarryLines, useShownSince } from '@/carry/CarryLines';
import { Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Message } from '@/ui/Message';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';
import { useKept } from '@/ui/useKept';
import { DropArea } from './DropArea';
import { FindingLine } from './FindingLine';
import { ImportPanel } from './ImportPanel';
import { useImports } from './imports';
import { ActionsMenu } from './sheet/ActionsMenu';
import { arranged, type Arrangement, type SortBy } from './sheet/arrange';
import { SelectionBar } from './sheet/SelectionBar';
import { Sheet } from './sheet/Sheet';
import { SheetHeader } from './sheet/SheetHeader';
import { SheetTitle, type SheetSize } from './sheet/SheetTitle';
import { useAsks } from './sheet/useAsks';
import { useChanges } from './sheet/useChanges';
import { useChosen } from './sheet/useChosen';
import { useSheetDialogs } from './sheet/useSheetDialogs';

const Stage = styled.main`
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
  background: var(--stage);
  color: #fff;
  [role='alert'] {
    padding: 12px 24px 0;
  }
`;
const Empty = styled.div`
  h1,
  p {
    color: #fff !important;
  }
  svg {
    color: #fff;
  }
`;

interface Props {
  database: string;
  shoot: { id: number; name: string; photographs: PhotographSummary[]; removed: number };
}

/** What another window does to the shoot shows this soon. */
const REFRESH_AFTER_MS = 400;

/** Shows what becomes of the shoot and its photographs elsewhere. */
function useRefresh(shootId: number, photographs: readonly PhotographSummary[]): void {
  const router = useRouter();
  const soon = useRef<ReturnType<typeof setTimeout>>(undefined);
  useServerEvents(
    ({ kind, subject }) =>
      (kind === 'shoot' && subject === shootId) || (kind === 'document' && photographs.some(({ id }) => id === subject)),
    () => {
      clearTimeout(soon.current);
      soon.current = setTimeout(() => router.refresh(), REFRESH_AFTER_MS);
    },
  );
}

/** Which photographs are shown, and in which order; the order is kept in this browser. */
function useArrangement(photographs: readonly PhotographSummary[]) {
  const [sort, setSort] = useKept<SortBy>('sheet-sort', 'added');
  const [{ filter, search }, setShown] = useState<Omit<Arrangement, 'sort'>>({ filter: 'all', search: '' });
  const shown = useMemo(() => arranged(photographs, { filter, search, sort }), [photographs, filter, search, sort]);
  const arrange = ({ sort: by, ...change }: Partial<Arrangement>): void => {
    if (by) setSort(by);
    setShown((before) => ({ ...before, ...change }));
  };
  return { arrangement: { filter, search, sort }, arrange, shown };
}

const onKeys =
  ({ undo, remove, rename }: { undo: () => void; remove: () => void; rename: () => void }) =>
  (event: KeyboardEvent<HTMLElement>): void => {
    if (event.target instanceof HTMLInputElement) return;
    if ((event.ctrlKey || event.metaKey) && event.key === 'z') undo();
    else if (event.key === 'Delete') remove();
    else if (event.key === 'F2') rename();
    else return;
    event.preventDefault();
  };

/** Ctrl A means the photographs wherever the focus is, and never the words of the page. */
function useChooseAll(choose: () => void): void {
  const latest = useRef(choose);
  useEffect(() => void (latest.current = choose));
  useEffect(() => {
    const press = (event: globalThis.KeyboardEvent): void => {
      const isText = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
      if (!(event.ctrlKey || event.metaKey) || event.key !== 'a' || event.defaultPrevented || isText) return;
      if (document.querySelector('[role=dialog], [role=menu]')) return;
      event.preventDefault();
      latest.current();
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, []);
}

/** On the server: it goes on when this window is closed. */
const queueFinding = (shootId: number, wanted: readonly PhotographSummary[]): Promise<unknown> =>
  request('POST', `/api/shoots/${shootId}/finding`, { key: crypto.randomUUID(), photographs: wanted.map(({ id }) => id) });

const idsIn = (photographs: readonly PhotographSummary[]): string => photographs.map(({ id }) => id).join(',');

/** The photographs of a shoot: chosen, marked, moved, opened. */
export function ContactSheet({ database, shoot }: Props) {
  const router = useRouter();
  const add = useImports((state) => state.add);
  const [size, setSize] = useKept<SheetSize>('sheet-size', '218');
  const [carriedSince, setCarriedSince] = useShownSince(shoot.id);
  const changes = useChanges(shoot.id);
  const { photographs } = shoot;
  const over = useSheetDialogs(database, shoot.id, changes.act);
  const asks = useAsks(shoot, photographs.length, changes);
  const { arrangement, arrange, shown } = useArrangement(photographs);
  const chosen = useChosen(shoot.id, shown);
  const selected = shown.filter(({ id }) => chosen.ids.has(id));
  const chooseNone = (): void => chosen.choose(new Set());
  useRefresh(shoot.id, photographs);
  useChooseAll(() => chosen.choose(new Set(shown.map(({ id }) => id))));

  const open = (id: number): void => {
    chosen.keep();
    router.push(`/photographs/${id}`);
  };
  const findIn = (wanted: readonly PhotographSummary[]): void => void changes.act(() => queueFinding(shoot.id, wanted));

  /** What is done with the photographs under a menu: with all that are chosen, when it is one of them. */
  const actions = (of: readonly PhotographSummary[]) => (
    <ActionsMenu
      photographs={of}
      shootId={shoot.id}
      changes={changes}
      onOpen={() => open(of[0]!.id)}
      onHandOver={() => over.handOver(of)}
      onFind={() => findIn(of)}
      onCompare={() => router.push(`/shoots/${shoot.id}/colours?of=${idsIn(of)}`)}
      onTreat={() => router.push(`/treatments?shoot=${shoot.id}&of=${idsIn(of)}`)}
      onCarryFrom={() => over.carry({ from: of[0]!.id, to: [] })}
      onCarryTo={() => over.carry({ from: null, to: of.map(({ id }) => id) })}
      onRename={() => asks.photographName(of[0]!)}
      onRemoved={chooseNone}
    />
  );

  return (
    <DropArea filled words={`Drop photographs to add them to “${shoot.name}”`} onFiles={(files) => add(shoot.id, files)}>
      <SheetHeader
        shoot={shoot}
        photographs={photographs.length}
        onAdd={(files) => add(shoot.id, files)}
        onFind={() => findIn(photographs)}
        onColours={() => router.push(`/shoots/${shoot.id}/colours`)}
        onCarried={() => setCarriedSince('')}
        onBin={over.openBin}
        onRename={asks.shootName}
        onRemove={asks.removeShoot}
      />
      <SheetTitle name={shoot.name} photographs={photographs} arrangement={arrangement} onArrange={arrange} size={size} onSize={setSize} />
      <FindingLine shootId={shoot.id} onStop={() => void changes.act(() => request('DELETE', `/api/shoots/${shoot.id}/finding`))} />
      <CarryLines shootId={shoot.id} since={carriedSince} onSince={setCarriedSince} />
      <Stage
        onKeyDown={onKeys({
          undo: () => void changes.undo(),
          remove: () => selected.length > 0 && void changes.remove(selected).then(chooseNone),
          rename: () => selected.length === 1 && asks.photographName(selected[0]!),
        })}
      >
        {changes.problem && <p role="alert">{changes.problem}</p>}
        {shown.length === 0 ? (
          <NothingShown isEmpty={photographs.length === 0} />
        ) : (
          <Sheet
            database={database}
            photographs={shown}
            width={size === 'two' ? null : Number(size)}
            chosen={chosen.ids}
            onChoose={chosen.choose}
            onOpen={open}
            menu={(p) => actions(chosen.ids.has(p.id) ? selected : [p])}
          />
        )}
        <SelectionBar
          count={selected.length}
          total={shown.length}
          onClear={chooseNone}
          last={changes.last?.words ?? null}
          onUndo={() => void changes.undo()}
          onDismiss={changes.dismiss}
        >
          <ChosenButtons
            selected={selected}
            menu={() => actions(selected)}
            onOpen={() => open(selected[0]!.id)}
            onLineUp={() => router.push(`/shoots/${shoot.id}/line-up?of=${idsIn(selected)}`)}
            onDone={() => void changes.mark(selected, 'done')}
            onHandOver={() => over.handOver(selected)}
          />
        </SelectionBar>
      </Stage>
      <ImportPanel />
      {over.dialogs}
      {asks.dialogs}
    </DropArea>
  );
}

function NothingShown({ isEmpty }: { isEmpty: boolean }) {
  return (
    <Empty>
      <Message title={isEmpty ? 'This shoot is empty' : 'No photograph is like this'}>
        <p>
          {isEmpty
            ? 'Drop photographs anywhere on this page, or choose them with “Add photographs”.'
            : 'Choose another filter above, or search for something else.'}
        </p>
      </Message>
    </Empty>
  );
}

interface ChosenButtonsProps {
  selected: readonly PhotographSummary[];
  menu: () => ReactNode;
  onOpen: () => void;
  onLineUp: () => void;
  onDone: () => void;
  onHandOver: () => void;
}

/** What is done most with the photographs that are chosen. */
function ChosenButtons({ selected, menu, onOpen, onLineUp, onDone, onHandOver }: ChosenButtonsProps) {
  return (
    <>
      <Button onPress={onOpen}>Open</Button>
      <Button isDisabled={selected.length < 2 || selected.length > 12} onPress={onLineUp}>
        Line-up
      </Button>
      <Button onPress={onDone}>Mark as done</Button>
      <Button onPress={onHandOver}>Hand over…</Button>
      <MenuTrigger>
        <Button>More…</Button>
        <Floating>{menu()}</Floating>
      </MenuTrigger>
    </>
  );
}
