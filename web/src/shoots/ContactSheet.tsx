'use client';
import type { PhotographState, PhotographSummary } from '@umbo/data';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { FileTrigger, MenuTrigger } from 'react-aria-components';
import { Circle, CircleDashed, CircleDot, ImagePlus, MoreHorizontal } from 'lucide-react';
import styled from 'styled-components';
import { AskSure, type Warning } from '@/ui/AskSure';
import { AskWords, type Question } from '@/ui/AskWords';
import { Button, IconButton, LinkButton } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Choice } from '@/ui/controls/Choice';
import { Menu, MenuItem } from '@/ui/controls/Menu';
import { Header } from '@/ui/Header';
import { Message } from '@/ui/Message';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';
import { useKept } from '@/ui/useKept';
import { DropArea } from './DropArea';
import { FindingLine } from './FindingLine';
import { ImportPanel } from './ImportPanel';
import { useImports } from './imports';
import { PreviewPicture } from './PreviewPicture';
import { useInSight } from './previews';

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
const Sheet = styled.main`
  flex: 1;
  background: var(--stage);
  color: #fff;
`;
const Grid = styled.ul<{ $size: number }>`
  list-style: none;
  margin: 0;
  padding: 20px 24px 60px;
  display: grid;
  gap: 20px 14px;
  grid-template-columns: repeat(auto-fill, minmax(${(p) => p.$size}px, 1fr));
`;
const Cell = styled.li`
  font-size: 12px;
  line-height: 16px;
  min-width: 0;
  a.picture {
    display: block;
    aspect-ratio: 7 / 6;
    background: #676767;
    border: 1px solid #5c5c5c;
    border-radius: 2px;
    overflow: hidden;
  }
  a.picture:hover {
    border-color: #fff;
  }
  a.picture:focus-visible {
    outline: 2px solid #fff;
    outline-offset: 2px;
  }
  img {
    width: 100%;
    height: 100%;
    object-fit: contain;
    display: block;
  }
  .words {
    display: flex;
    align-items: center;
    gap: 8px;
    padding-top: 5px;
    min-height: 30px;
  }
  .name {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .state {
    display: flex;
    align-items: center;
    gap: 5px;
    white-space: nowrap;
  }
  button {
    width: 24px;
    min-height: 22px;
    background: none;
    border-color: transparent;
    color: #fff;
  }
  button[data-hovered] {
    border-color: #fff;
  }
  button[data-focus-visible] {
    outline-color: #fff;
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
] as const;
const FILTERS = [
  ['all', 'All'],
  ['untouched', 'Untouched'],
  ['in work', 'In work'],
  ['done', 'Done'],
] as const;
const ICONS = { untouched: CircleDashed, 'in work': CircleDot, done: Circle };
const ACCEPTED = ['image/jpeg', 'image/png', 'image/tiff', 'image/webp', 'image/avif'];

interface Props {
  database: string;
  shoot: { id: number; name: string; photographs: PhotographSummary[] };
}

/** Cells that are complete at once; the others become so when they come near. */
const FIRST = 40;
const NEAR = 800;
/** What another window does to the shoot shows this soon. */
const REFRESH_AFTER_MS = 400;

interface PhotographProps {
  database: string;
  photograph: PhotographSummary;
  isFirst: boolean;
  onAction: (key: string) => void;
}

function Photograph({ database, photograph: p, isFirst, onAction }: PhotographProps) {
  const cell = useRef<HTMLLIElement>(null);
  const isComplete = useInSight(cell, NEAR) || isFirst;
  const Icon = ICONS[p.state];
  return (
    <Cell ref={cell}>
      <Link className="picture" href={`/photographs/${p.id}`} prefetch={false} aria-label={`Open ${p.name}`} draggable={false}>
        {isComplete && <PreviewPicture database={database} id={p.id} revision={p.revision} />}
      </Link>
      <div className="words">
        <span className="name" title={`${p.name}, ${p.width} × ${p.height}, ${p.bits} bit`}>
          {p.name}
        </span>
        <span className="state">
          <Icon size={13} strokeWidth={1.75} fill={p.state === 'done' ? 'currentColor' : 'none'} aria-hidden /> {p.state}
        </span>
        {isComplete && (
          <MenuTrigger>
            <IconButton aria-label={`More about ${p.name}`}>
              <MoreHorizontal size={14} />
            </IconButton>
            <Floating>
              <Menu onAction={(key) => onAction(String(key))}>
                <MenuItem id="done" isDisabled={p.state === 'done'}>
                  Mark as done
                </MenuItem>
                <MenuItem id="in work" isDisabled={p.state === 'in work'}>
                  Mark as in work
                </MenuItem>
                <MenuItem id="find">Find regions</MenuItem>
                <MenuItem id="remove">Remove…</MenuItem>
              </Menu>
            </Floating>
          </MenuTrigger>
        )}
      </div>
    </Cell>
  );
}

/** The photographs of a shoot, side by side. */
export function ContactSheet({ database, shoot }: Props) {
  const router = useRouter();
  const add = useImports((state) => state.add);
  const [size, setSize] = useKept<(typeof SIZES)[number][0]>('sheet-size', '218');
  const [filter, setFilter] = useState<'all' | PhotographState>('all');
  const [warning, setWarning] = useState<Warning | null>(null);
  const [question, setQuestion] = useState<Question | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const { photographs } = shoot;
  const shown = photographs.filter(({ state }) => filter === 'all' || state === filter);
  const inState = (state: PhotographState): number => photographs.filter((p) => p.state === state).length;

  const refreshSoon = useRef<ReturnType<typeof setTimeout>>(undefined);
  useServerEvents(
    ({ kind, subject }) =>
      (kind === 'shoot' && subject === shoot.id) || (kind === 'document' && photographs.some(({ id }) => id === subject)),
    () => {
      clearTimeout(refreshSoon.current);
      refreshSoon.current = setTimeout(() => router.refresh(), REFRESH_AFTER_MS);
    },
  );

  const act = async (work: () => Promise<unknown>): Promise<void> => {
    setProblem(null);
    await work().catch((error: Error) => setProblem(error.message));
    router.refresh();
  };

  /** On the server: it goes on when this window is closed. */
  const findIn = (wanted: readonly PhotographSummary[]): Promise<unknown> =>
    request('POST', `/api/shoots/${shoot.id}/finding`, { key: crypto.randomUUID(), photographs: wanted.map(({ id }) => id) });

  const askName = (): void =>
    setQuestion({
      title: 'Rename the shoot',
      label: 'Name',
      text: shoot.name,
      button: 'Rename',
      then: (name) => void act(() => request('PATCH', `/api/shoots/${shoot.id}`, { name })),
    });
  const askRemove = ({ id, name }: PhotographSummary): void =>
    setWarning({
      title: `Remove “${name}”?`,
      words: 'The photograph goes from this shoot with its edit, its history, its versions and its hand-overs.',
      button: 'Remove',
      then: () => void act(() => request('DELETE', `/api/photographs/${id}`)),
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

  return (
    <DropArea words={`Drop photographs to add them to “${shoot.name}”`} onFiles={(files) => add(shoot.id, files)}>
      <Header
        crumbs={[
          ['Shoots', '/'],
          [shoot.name, `/shoots/${shoot.id}`],
        ]}
      >
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
                if (key === 'find') void act(() => findIn(photographs));
                else if (key === 'rename') askName();
                else askRemoveShoot();
              }}
            >
              <MenuItem id="find" isDisabled={photographs.length === 0}>
                Find regions in all photographs
              </MenuItem>
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
        <Choice label="Size of the pictures" value={size} options={SIZES} onChange={setSize} />
        <Choice label="Which photographs" value={filter} options={FILTERS} onChange={setFilter} />
      </Title>
      <FindingLine shootId={shoot.id} onStop={() => void act(() => request('DELETE', `/api/shoots/${shoot.id}/finding`))} />
      <Sheet>
        {problem && (
          <p role="alert" style={{ padding: '12px 24px 0' }}>
            {problem}
          </p>
        )}
        {shown.length === 0 ? (
          <Empty>
            <Message title={photographs.length === 0 ? 'This shoot is empty' : `No photograph is ${filter}`}>
              <p>
                {photographs.length === 0
                  ? 'Drop photographs anywhere on this page, or choose them with “Add photographs”.'
                  : 'Choose another filter above.'}
              </p>
            </Message>
          </Empty>
        ) : (
          <Grid $size={Number(size)} aria-label="Contact sheet">
            {shown.map((p, i) => (
              <Photograph
                key={p.id}
                database={database}
                photograph={p}
                isFirst={i < FIRST}
                onAction={(key) => {
                  if (key === 'remove') askRemove(p);
                  else if (key === 'find') void act(() => findIn([p]));
                  else void act(() => request('PATCH', `/api/photographs/${p.id}`, { state: key }));
                }}
              />
            ))}
          </Grid>
        )}
      </Sheet>
      <ImportPanel />
      <AskSure warning={warning} onDone={() => setWarning(null)} />
      <AskWords question={question} onDone={() => setQuestion(null)} />
    </DropArea>
  );
}
