'use client';
import { NAME_FIELDS, PLAIN_PATTERN } from '@umbo/core/format';
import type { BatchNames, BatchWish, Preset, PresetSettings } from '@umbo/data';
import Link from 'next/link';
import { useCallback, useEffect, useState } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { AskWords, type Question } from '@/ui/AskWords';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { Floating } from '@/ui/controls/Floating';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { Switch } from '@/ui/controls/Switch';
import { TextInput } from '@/ui/controls/TextField';
import { request } from '@/ui/request';
import { BatchRow } from './BatchRow';
import { FileOptions } from './FileOptions';
import { useBatches } from './useBatches';

const Columns = styled.div`
  display: grid;
  grid-template-columns: 360px minmax(0, 1fr);
  gap: 0 24px;
`;
const Side = styled.section`
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-width: 0;
  font-size: 12px;
  line-height: 16px;
`;
const Names = styled.ol`
  flex: 1;
  height: 0;
  min-height: 170px;
  overflow: auto;
  margin: 0;
  padding: 4px 8px;
  list-style: none;
  border: 1px solid var(--line);
  border-radius: var(--radius);
  background: var(--raised);
  font: 400 11px/17px var(--mono);
  li {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  li[data-clash] {
    font-weight: 600;
    text-decoration: underline;
  }
`;
const Fields = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  button {
    min-height: 22px;
    padding: 0 7px;
    font: 400 11px/16px var(--mono);
  }
`;

const VERSIONS = [
  ['now', 'As they are'],
  ['versions', 'Their versions'],
  ['both', 'Both'],
] as const;
const FIRST: PresetSettings = {
  versions: 'now',
  colourways: true,
  pattern: PLAIN_PATTERN,
  options: { format: 'jpeg', bits: 8, space: 'srgb', quality: 92 },
};
/** Names are asked for when nobody has typed for so long. */
const ASK_AFTER_MS = 250;
/** More names than this are not shown one by one. */
const SHOWN = 500;

interface Props {
  shootId: number;
  photographs: readonly { id: number; bits: number }[];
  isOpen: boolean;
  onClose: () => void;
}

/** Asks for files of many photographs: what they are, and what they are called. */
export function BatchDialog({ shootId, photographs, isOpen, onClose }: Props) {
  const [settings, setSettings] = useState(FIRST);
  const [problem, setProblem] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);
  const [asked, setAsked] = useState<readonly string[]>([]);
  const { list, refresh } = useBatches([]);
  const set = (values: Partial<PresetSettings>): void => setSettings((before) => ({ ...before, ...values }));
  const wish: BatchWish = { ...settings, photographs: photographs.map(({ id }) => id) };
  const names = useNames(wish, isOpen, setProblem);

  const ask = async (): Promise<void> => {
    setAsking(true);
    setProblem(null);
    try {
      const { id } = await request<{ id: string }>('POST', '/api/hand-overs/batches', { key: crypto.randomUUID(), ...wish });
      setAsked((before) => [id, ...before]);
      await refresh();
    } catch (error) {
      setProblem((error as Error).message);
    }
    setAsking(false);
  };
  const clashes = names?.clashes.length ?? 0;
  const count = names?.names.length ?? 0;
  const files = count === 1 ? 'one file' : `${count} files`;
  return (
    <Dialog
      title={`Hand over ${photographs.length === 1 ? 'one photograph' : `${photographs.length} photographs`}`}
      isOpen={isOpen}
      onClose={onClose}
      width={820}
    >
      <Columns>
        <div>
          <FileOptions
            options={settings.options}
            shootId={shootId}
            depth={photographs.some(({ bits }) => bits === 16) ? 16 : 8}
            onChange={(options) => set({ options })}
          />
          <LabelledLine>
            Edits
            <Choice label="Edits" value={settings.versions} options={VERSIONS} onChange={(versions) => set({ versions })} />
          </LabelledLine>
          <LabelledLine>
            <span />
            <Switch value={settings.colourways} onChange={(colourways) => set({ colourways })}>
              A file for every colourway
            </Switch>
          </LabelledLine>
          <LabelledLine>
            <span />
            <Switch value={settings.passed === true} isDisabled={!settings.colourways} onChange={(passed) => set({ passed })}>
              Only colourways that reached their target colour
            </Switch>
          </LabelledLine>
          <Presets settings={settings} onTake={setSettings} />
        </div>
        <NamesSide pattern={settings.pattern} onPattern={(pattern) => set({ pattern })} names={names} />
      </Columns>
      {problem && <p role="alert">{problem}</p>}
      {asked.length > 0 && (
        <ul aria-label="Files that were asked for" style={{ listStyle: 'none', margin: 0, padding: 0 }}>
          {list
            .filter(({ id }) => asked.includes(id))
            .map((batch) => (
              <BatchRow key={batch.id} batch={batch} refresh={refresh} />
            ))}
        </ul>
      )}
      <DialogActions>
        <Link href="/hand-over" style={{ marginRight: 'auto', alignSelf: 'center' }}>
          All hand-overs
        </Link>
        <Button onPress={onClose}>Close</Button>
        <Button $primary isDisabled={asking || count === 0 || clashes > 0 || !settings.pattern.trim()} onPress={() => void ask()}>
          {asking ? 'Asking…' : count > 0 ? `Render ${files}` : 'Render'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** What the files would be called, asked for once the wish has stood still. @param say hears what is wrong; null: nothing */
function useNames(wish: BatchWish, isOpen: boolean, say: (problem: string | null) => void): BatchNames | null {
  const [names, setNames] = useState<BatchNames | null>(null);
  const question = JSON.stringify(wish);
  useEffect(() => {
    if (!isOpen) return;
    let current = true;
    const timer = setTimeout(() => {
      request<BatchNames>('POST', '/api/hand-overs/batches/names', JSON.parse(question)).then(
        (found) => {
          if (!current) return;
          setNames(found);
          say(null);
        },
        (error: Error) => current && say(error.message),
      );
    }, ASK_AFTER_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [question, isOpen]);
  return names;
}

/** The pattern of names, and what comes of it. */
function NamesSide({ pattern, onPattern, names }: { pattern: string; onPattern: (pattern: string) => void; names: BatchNames | null }) {
  const clashes = new Set(names?.clashes.map((name) => name.toLowerCase()));
  const count = names?.names.length ?? 0;
  return (
    <Side>
      <label htmlFor="batch-pattern">Names</label>
      <TextInput id="batch-pattern" value={pattern} onChange={(event) => onPattern(event.target.value)} />
      <Fields>
        {NAME_FIELDS.map(([field, words]) => (
          <Button key={field} aria-label={`Add the field: ${words}`} onPress={() => onPattern(`${pattern}{${field}}`)}>
            {`{${field}}`}
          </Button>
        ))}
      </Fields>
      <Names aria-label="What the files will be called" tabIndex={0}>
        {names?.names.slice(0, SHOWN).map((name, i) => (
          <li key={i} data-clash={clashes.has(name.toLowerCase()) || undefined} title={name}>
            {name}
          </li>
        ))}
        {count > SHOWN && <li>… and {count - SHOWN} more</li>}
      </Names>
      {clashes.size > 0 && (
        <p role="alert">
          {clashes.size === 1 ? 'One name is' : `${clashes.size} names are`} there more than once: add a field such as {'{number}'}.
        </p>
      )}
    </Side>
  );
}

/** Settings under a name, for all shoots. */
function Presets({ settings, onTake }: { settings: PresetSettings; onTake: (settings: PresetSettings) => void }) {
  const [list, setList] = useState<readonly Preset[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const [question, setQuestion] = useState<Question | null>(null);
  const read = useCallback(() => request<Preset[]>('GET', '/api/presets').then(setList, (error: Error) => setProblem(error.message)), []);
  useEffect(() => void read(), [read]);
  const work = (what: Promise<unknown>): void => {
    setProblem(null);
    what.then(read, (error: Error) => setProblem(error.message));
  };
  const same = list.find((one) => JSON.stringify(one.settings) === JSON.stringify(settings));
  const keep = (): void =>
    setQuestion({
      title: 'Keep these settings',
      label: 'Name',
      text: same?.name ?? '',
      button: 'Keep',
      then: (name) => work(request('POST', '/api/presets', { name, settings })),
    });
  return (
    <LabelledLine>
      Settings
      <span>
        <MenuTrigger>
          <Button>{same?.name ?? 'Kept settings…'}</Button>
          <Floating>
            <Menu>
              {list.length > 0 ? (
                <MenuSection title="Take">
                  {list.map(({ id, name, settings: taken }) => (
                    <MenuItem key={id} onAction={() => onTake(taken)}>
                      {name}
                    </MenuItem>
                  ))}
                </MenuSection>
              ) : null}
              <MenuSection title="These settings">
                <MenuItem onAction={keep}>Keep under a name…</MenuItem>
                {same ? (
                  <MenuItem onAction={() => work(request('DELETE', `/api/presets/${same.id}`))}>Remove “{same.name}”</MenuItem>
                ) : null}
              </MenuSection>
            </Menu>
          </Floating>
        </MenuTrigger>
        {problem && <small role="alert">{problem}</small>}
        <AskWords question={question} onDone={() => setQuestion(null)} />
      </span>
    </LabelledLine>
  );
}
