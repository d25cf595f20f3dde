'use client';
import type { PhotographState, PhotographSummary } from '@umbo/data';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { FileTrigger, MenuTrigger } from 'react-aria-components';
import { ImagePlus, MoreHorizontal } from 'lucide-react';
import styled from 'styled-components';
import { CarryDialog } from '@/carry/CarryDialog';
import { CarryLines, useShownSince } from '@/carry/CarryLines';
import { BatchDialog } from '@/handOver/BatchDialog';
import { AskSure, type Warning } from '@/ui/AskSure';
import { AskWords, type Question } from '@/ui/AskWords';
import { keepChosen, keptChosen } from '@/ui/chosen';
import { Button, IconButton, LinkButton } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Choice } from '@/ui/controls/Choice';
import { Menu, MenuItem } from '@/ui/controls/Menu';
import { Select } from '@/ui/controls/Select';
import { TextInput } from '@/ui/controls/TextField';
import { Header } from '@/ui/Header';
import { Message } from '@/ui/Message';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';
import { useKept } from '@/ui/useKept';
import { DropArea } from './DropArea';
import { FindingLine } from './FindingLine';
import { ImportPanel } from './ImportPanel';
import { useImports } from './imports';
import { ActionsMenu } from './sheet/ActionsMenu';
import { arranged, SORTS, type Arrangement, type SortBy } from './sheet/arrange';
import { BinDialog } from './sheet/BinDialog';
import { SelectionBar } from './sheet/SelectionBar';
import { Sheet } from './sheet/Sheet';
import { useChanges } from './sheet/useChanges';

const Title = styled.div`
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 18px 24px;
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  line-height: 16px;
  h1 {
    font: 650 26px/32px var(--sans);
    letter-spacing: -0.015em;
  }
  > span {
    color: var(--ink2);
    font-size: 14px;
    flex: 1;
    padding-top: 6px;
  }
`;
const Search = styled(TextInput)`
  width: 130px;
`;
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

const SIZES = [
  ['150', 'Small'],
  ['218', 'Medium'],
  ['420', 'Large'],
  ['two', 'Two across'],
] as const;
const FILTERS = [
  ['all', 'All'],
  ['untouched', 'Untouched'],
  ['in work', 'In work'],
  ['done', 'Done'],
] as const;
const ACCEPTED = ['image/jpeg', 'image/png', 'image/tiff', 'image/webp', 'image/avif'];

interface Props {
  database: string;
  shoot: { id: number; name: string; photographs: PhotographSummary[]; removed: number };
}

/** What another window does to the shoot shows this soon. */
const REFRESH_AFTER_MS = 400;

/** The photographs of a shoot: chosen, marked, moved, opened. */
export function ContactSheet({ database, shoot }: Props) {
  const router = useRouter();
  const add = useImports((state) => state.add);
  const [size, setSize] = useKept<(typeof SIZES)[number][0]>('sheet-size', '218');
  const [sort, setSort] = useKept<SortBy>('sheet-sort', 'added');
  const [filter, setFilter] = useState<Arrangement['filter']>('all');
  const [search, setSearch] = useState('');
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [warning, setWarning] = useState<Warning | null>(null);
  const [question, setQuestion] = useState<Question | null>(null);
  const [binIsOpen, setBinOpen] = useState(false);
  const [handing, setHanding] = useState<readonly PhotographSummary[] | null>(null);
  const [carrying, setCarrying] = useState<{ from: number | null; to: readonly number[] } | null>(null);
  const [carriedSince, setCarriedSince] = useShownSince(shoot.id);
  const changes = useChanges(shoot.id);
  const { act } = changes;
  const { photographs } = shoot;
  const shown = useMemo(() => arranged(photographs, { filter, search, sort }), [photographs, filter, search, sort]);
  const selected = shown.filter(({ id }) => chosen.has(id));
  const inState = (state: PhotographState): number => photographs.filter((p) => p.state === state).length;

  // What was chosen when one went to the bench is chosen when one is back.
  useEffect(() => setChosen(new Set(keptChosen(shoot.id).chosen)), [shoot.id]);
  const choose = (next: ReadonlySet<number>): void => {
    setChosen(next);
    keep(next);
  };
  const keep = (next: ReadonlySet<number>): void =>
    keepChosen(shoot.id, { order: shown.map(({ id }) => id), chosen: shown.flatMap(({ id }) => (next.has(id) ? [id] : [])) });
  const open = (id: number): void => {
    keep(chosen);
    router.push(`/photographs/${id}`);
  };

  const refreshSoon = useRef<ReturnType<typeof setTimeout>>(undefined);
  useServerEvents(
    ({ kind, subject }) =>
      (kind === 'shoot' && subject === shoot.id) || (kind === 'document' && photographs.some(({ id }) => id === subject)),
    () => {
      clearTimeout(refreshSoon.current);
      refreshSoon.current = setTimeout(() => router.refresh(), REFRESH_AFTER_MS);
    },
  );

  /** On the server: it goes on when this window is closed. */
  const findIn = (wanted: readonly PhotographSummary[]): void =>
    void act(() =>
      request('POST', `/api/shoots/${shoot.id}/finding`, { key: crypto.randomUUID(), photographs: wanted.map(({ id }) => id) }),
    );

  const askName = (): void =>
    setQuestion({
      title: 'Rename the shoot',
      label: 'Name',
      text: shoot.name,
      button: 'Rename',
      then: (name) => void act(() => request('PATCH', `/api/shoots/${shoot.id}`, { name })),
    });
  const askPhotographName = (photograph: PhotographSummary): void =>
    setQuestion({
      title: `Rename “${photograph.name}”`,
      label: 'Name',
      text: photograph.name,
      button: 'Rename',
      then: (name) => void changes.rename(photograph, name),
    });
  const askRemoveShoot = (): void =>
    setWarning({
      title: `Remove the shoot “${shoot.name}”?`,
      words:
        photographs.length === 0
          ? 'The shoot is empty; its palettes go with it.'
          : `All ${photographs.length} photographs go with their edits, histories, versions and hand-overs, and so do the palettes.`,
      button: 'Remove',
      then: () =>
        void act(async () => {
          await request('DELETE', `/api/shoots/${shoot.id}`);
          router.push('/');
        }),
    });

  const onKeyDown = (event: KeyboardEvent<HTMLElement>): void => {
    if (event.target instanceof HTMLInputElement) return;
    const withControl = event.ctrlKey || event.metaKey;
    if (withControl && event.key === 'z') void changes.undo();
    else if (event.key === 'Delete' && selected.length > 0) void changes.remove(selected).then(() => choose(new Set()));
    else if (event.key === 'F2' && selected.length === 1) askPhotographName(selected[0]!);
    else return;
    event.preventDefault();
  };

  /** What is done with the photographs under a menu: with all that are chosen, when it is one of them. */
  const actions = (of: readonly PhotographSummary[]) => (
    <ActionsMenu
      photographs={of}
      shootId={shoot.id}
      changes={changes}
      onOpen={() => open(of[0]!.id)}
      onHandOver={() => setHanding(of)}
      onFind={() => findIn(of)}
      onCompare={() => router.push(`/shoots/${shoot.id}/colours?of=${of.map(({ id }) => id).join(',')}`)}
      onTreat={() => router.push(`/treatments?shoot=${shoot.id}&of=${of.map(({ id }) => id).join(',')}`)}
      onCarryFrom={() => setCarrying({ from: of[0]!.id, to: [] })}
      onCarryTo={() => setCarrying({ from: null, to: of.map(({ id }) => id) })}
      onRename={() => askPhotographName(of[0]!)}
      onRemoved={() => choose(new Set())}
    />
  );

  return (
    <DropArea filled words={`Drop photographs to add them to “${shoot.name}”`} onFiles={(files) => add(shoot.id, files)}>
      <Header
        crumbs={[
          ['Shoots', '/'],
          [shoot.name, `/shoots/${shoot.id}`],
        ]}
      >
        <LinkButton href={`/treatments?shoot=${shoot.id}`}>Treatments</LinkButton>
        <LinkButton href="/hand-over">Hand-over</LinkButton>
        <FileTrigger allowsMultiple acceptedFileTypes={ACCEPTED} onSelect={(files) => files && add(shoot.id, [...files])}>
          <Button $primary>
            <ImagePlus size={15} strokeWidth={1.5} aria-hidden /> Add photographs
          </Button>
        </FileTrigger>
        <MenuTrigger>
          <IconButton aria-label={`More about ${shoot.name}`}>
            <MoreHorizontal size={15} />
          </IconButton>
          <Floating>
            <Menu
              onAction={(key) => {
                if (key === 'find') findIn(photographs);
                else if (key === 'colours') router.push(`/shoots/${shoot.id}/colours`);
                else if (key === 'carried') setCarriedSince('');
                else if (key === 'bin') setBinOpen(true);
                else if (key === 'rename') askName();
                else askRemoveShoot();
              }}
            >
              <MenuItem id="find" isDisabled={photographs.length === 0}>
                Find regions in all photographs
              </MenuItem>
              <MenuItem id="colours" isDisabled={photographs.length < 2}>
                Compare colours
              </MenuItem>
              <MenuItem id="carried">What was carried</MenuItem>
              <MenuItem id="bin">Bin{shoot.removed > 0 ? ` (${shoot.removed})` : ''}…</MenuItem>
              <MenuItem id="rename">Rename the shoot…</MenuItem>
              <MenuItem id="remove">Remove the shoot…</MenuItem>
            </Menu>
          </Floating>
        </MenuTrigger>
      </Header>
      <Title>
        <h1>{shoot.name}</h1>
        <span>
          {photographs.length} photograph{photographs.length === 1 ? '' : 's'}
          {inState('done') > 0 && ` · ${inState('done')} done`}
          {inState('in work') > 0 && ` · ${inState('in work')} in work`}
        </span>
        <Search
          type="search"
          aria-label="Search by name or camera"
          placeholder="Search"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
        <Select label="Sort by" hideLabel value={sort} options={SORTS} onChange={setSort} />
        <Choice label="Size of the pictures" value={size} options={SIZES} onChange={setSize} />
        <Choice label="Which photographs" value={filter} options={FILTERS} onChange={setFilter} />
      </Title>
      <FindingLine shootId={shoot.id} onStop={() => void act(() => request('DELETE', `/api/shoots/${shoot.id}/finding`))} />
      <CarryLines shootId={shoot.id} since={carriedSince} onSince={setCarriedSince} />
      <Stage onKeyDown={onKeyDown}>
        {changes.problem && <p role="alert">{changes.problem}</p>}
        {shown.length === 0 ? (
          <Empty>
            <Message title={photographs.length === 0 ? 'This shoot is empty' : 'No photograph is like this'}>
              <p>
                {photographs.length === 0
                  ? 'Drop photographs anywhere on this page, or choose them with “Add photographs”.'
                  : 'Choose another filter above, or search for something else.'}
              </p>
            </Message>
          </Empty>
        ) : (
          <Sheet
            database={database}
            photographs={shown}
            width={size === 'two' ? null : Number(size)}
            chosen={chosen}
            onChoose={choose}
            onOpen={open}
            menu={(p) => actions(chosen.has(p.id) ? selected : [p])}
          />
        )}
        <SelectionBar
          count={selected.length}
          total={shown.length}
          onClear={() => choose(new Set())}
          last={changes.last?.words ?? null}
          onUndo={() => void changes.undo()}
          onDismiss={changes.dismiss}
        >
          <Button onPress={() => open(selected[0]!.id)}>Open</Button>
          <Button
            isDisabled={selected.length < 2 || selected.length > 12}
            onPress={() => router.push(`/shoots/${shoot.id}/survey?of=${selected.map(({ id }) => id).join(',')}`)}
          >
            Survey
          </Button>
          <Button onPress={() => void changes.mark(selected, 'done')}>Mark as done</Button>
          <Button onPress={() => setHanding(selected)}>Hand over…</Button>
          <MenuTrigger>
            <Button>More…</Button>
            <Floating>{actions(selected)}</Floating>
          </MenuTrigger>
        </SelectionBar>
      </Stage>
      <ImportPanel />
      <BinDialog shootId={shoot.id} isOpen={binIsOpen} onClose={() => setBinOpen(false)} act={act} />
      <BatchDialog shootId={shoot.id} photographs={handing ?? []} isOpen={handing !== null} onClose={() => setHanding(null)} />
      <CarryDialog
        database={database}
        shootId={shoot.id}
        from={carrying?.from ?? null}
        to={carrying?.to ?? []}
        layers={[]}
        isOpen={carrying !== null}
        onClose={() => setCarrying(null)}
      />
      <AskSure warning={warning} onDone={() => setWarning(null)} />
      <AskWords question={question} onDone={() => setQuestion(null)} />
    </DropArea>
  );
}
