'use client';
import { repeatable, type UmboDocument } from '@umbo/core/document';
import type { CarryManner, PhotographSummary } from '@umbo/data';
import { useEffect, useMemo, useState } from 'react';
import { GridList, GridListItem, ListLayout, Virtualizer, type Selection } from 'react-aria-components';
import styled from 'styled-components';
import { PreviewPicture } from '@/shoots/PreviewPicture';
import { Button } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { Select } from '@/ui/controls/Select';
import { Switch } from '@/ui/controls/Switch';
import { request } from '@/ui/request';
import { CarryRow } from './CarryRow';
import { useCarries } from './useCarries';

const Columns = styled.div`
  display: grid;
  grid-template-columns: 320px minmax(0, 1fr);
  gap: 0 24px;
  font-size: 12px;
  line-height: 16px;
`;
const Column = styled.section`
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-width: 0;
  h3 {
    font: 650 12px/16px var(--sans);
  }
  h3:not(:first-child) {
    margin-top: 8px;
  }
  p {
    color: var(--ink2);
  }
`;
const Layers = styled.div`
  display: grid;
  gap: 6px;
  max-height: 132px;
  overflow: auto;
  padding: 2px 2px 2px 29px;
`;
const Targets = styled(GridList)`
  height: 318px;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: var(--radius);
  background: var(--raised);
  outline: none;
` as typeof GridList;
const Target = styled(GridListItem)`
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  height: 44px;
  padding: 0 10px 0 4px;
  cursor: default;
  outline: none;
  border-bottom: 1px solid var(--line);
  > span:first-child {
    display: grid;
    height: 38px;
    overflow: hidden;
    background: var(--well);
  }
  img {
    width: 56px;
    height: 38px;
    object-fit: cover;
  }
  b {
    font-weight: 400;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  &[data-selected] b {
    font-weight: 650;
  }
  i {
    width: 14px;
    height: 14px;
    border: 1px solid var(--edge);
    border-radius: 3px;
  }
  &[data-selected] i {
    background: var(--ink);
    border-color: var(--ink);
    box-shadow: inset 0 0 0 2.5px var(--raised);
  }
  &[data-hovered] {
    background: var(--well);
  }
  &[data-focus-visible] {
    box-shadow: inset 0 0 0 2px var(--ink);
  }
`;
const Head = styled.div`
  display: flex;
  gap: 8px;
  align-items: center;
  h3 {
    flex: 1;
  }
`;
const Rows = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--line);
`;

const HOW: readonly (readonly [CarryManner, string, string])[] = [
  ['replace', 'In the place of what came before', 'Layers that came from the same ones give way where they stand; others are added above.'],
  ['changes', 'Only what changed since', 'What was changed on those photographs since it came stays as it is there.'],
  ['add', 'Beside what is there', 'Added above all layers, also where the same came before.'],
  ['whole', 'Instead of the whole edit', 'Layers, readings and strength of those photographs give way.'],
];

const ROW = { rowSize: 44 };

interface Props {
  database: string;
  shootId: number;
  /** Where it comes from; null: to be chosen. */
  from: number | null;
  /** The photographs that are meant already. */
  to: readonly number[];
  /** The layers that are meant already; empty: all. */
  layers: readonly string[];
  isOpen: boolean;
  onClose: () => void;
  /** Resolves once everything the person sees is on the server. */
  kept?: () => Promise<void>;
}

/** Asks what of one photograph goes to which others, and how. */
export function CarryDialog(props: Props) {
  return (
    <Dialog title="Carry to other photographs" isOpen={props.isOpen} onClose={props.onClose} width={820}>
      {props.isOpen && <Form {...props} />}
    </Dialog>
  );
}

function Form({ database, shootId, from, to, layers: meant, onClose, kept }: Props) {
  const [photographs, setPhotographs] = useState<readonly PhotographSummary[]>([]);
  const [sourceId, setSourceId] = useState(from);
  const [document, setDocument] = useState<UmboDocument | null>(null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [also, setAlso] = useState({ regions: false, readings: false, geometry: false });
  const [anew, setAnew] = useState(true);
  const [how, setHow] = useState<CarryManner>('replace');
  const [targets, setTargets] = useState<ReadonlySet<number>>(new Set(to));
  const [problem, setProblem] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);
  const [asked, setAsked] = useState<readonly string[]>([]);
  const { list, refresh } = useCarries(shootId);

  useEffect(() => {
    request<{ photographs: PhotographSummary[] }>('GET', `/api/shoots/${shootId}`).then(
      ({ photographs: found }) => setPhotographs(found),
      (error: Error) => setProblem(error.message),
    );
  }, [shootId]);
  useEffect(() => {
    if (sourceId === null) return;
    let current = true;
    const read = async (): Promise<void> => {
      await kept?.();
      const { edit } = await request<{ edit: { document: UmboDocument } }>('GET', `/api/photographs/${sourceId}`);
      if (!current) return;
      setDocument(edit.document);
      const known = edit.document.layers.map(({ id }) => id);
      const wanted = known.filter((id) => meant.includes(id));
      setLeft(new Set(wanted.length > 0 ? known.filter((id) => !wanted.includes(id)) : []));
    };
    read().catch((error: Error) => current && setProblem(error.message));
    return () => void (current = false);
    // What is meant already is only where one begins.
  }, [sourceId]);

  const others = useMemo(() => photographs.filter(({ id }) => id !== sourceId), [photographs, sourceId]);
  const chosen = others.filter(({ id }) => targets.has(id));
  const layers = document?.layers ?? [];
  const taken = layers.filter(({ id }) => !left.has(id));
  const readings = document?.readings?.length ?? 0;
  const regions = document?.regions?.length ?? 0;
  const found = repeatable({ layers: taken, readings: document?.readings ?? [] });
  const something = taken.length > 0 || (also.regions && regions > 0) || (also.readings && readings > 0) || also.geometry;

  const choose = (selection: Selection): void =>
    setTargets(new Set(selection === 'all' ? others.map(({ id }) => id) : [...selection].map(Number)));
  const carry = async (): Promise<void> => {
    setAsking(true);
    setProblem(null);
    try {
      await kept?.();
      const { id } = await request<{ id: string }>('POST', '/api/carries', {
        key: crypto.randomUUID(),
        from: { kind: 'photograph', id: sourceId },
        photographs: chosen.map((one) => one.id),
        choice: {
          layers: left.size === 0 ? 'all' : taken.map((layer) => layer.id),
          ...also,
          solve: anew ? found.map((layer) => layer.id) : [],
        },
        how,
        isTrial: false,
      });
      setAsked((before) => [id, ...before]);
      await refresh();
    } catch (error) {
      setProblem((error as Error).message);
    }
    setAsking(false);
  };

  const mine = list.filter(({ id }) => asked.includes(id));
  return (
    <>
      <Columns>
        <Column>
          {from === null && (
            <Select
              label="From"
              value={String(sourceId ?? '')}
              options={photographs.map(({ id, name }) => [String(id), name] as const)}
              onChange={(id) => setSourceId(Number(id))}
              placeholder="Choose a photograph"
            />
          )}
          <h3>What</h3>
          {sourceId === null ? (
            <p>Choose above where it comes from.</p>
          ) : (
            <>
              <Switch
                value={layers.length > 0 && taken.length === layers.length}
                isDisabled={layers.length === 0}
                onChange={(all) => setLeft(new Set(all ? [] : layers.map(({ id }) => id)))}
              >
                {layers.length === 0 ? 'No layers here' : `All layers (${layers.length})`}
              </Switch>
              {layers.length > 0 && (
                <Layers role="group" aria-label="Layers">
                  {layers.map(({ id, name }) => (
                    <Switch
                      key={id}
                      value={!left.has(id)}
                      onChange={(on) => setLeft((before) => new Set(on ? [...before].filter((one) => one !== id) : [...before, id]))}
                    >
                      {name}
                    </Switch>
                  ))}
                </Layers>
              )}
              <Switch value={also.regions} isDisabled={regions === 0} onChange={(on) => setAlso({ ...also, regions: on })}>
                Regions that no layer uses as well{regions > 0 && ` (${regions} in all)`}
              </Switch>
              <Switch value={also.readings} isDisabled={readings === 0} onChange={(on) => setAlso({ ...also, readings: on })}>
                Readings{readings > 0 && ` (${readings})`}
              </Switch>
              <Switch value={also.geometry} onChange={(on) => setAlso({ ...also, geometry: on })}>
                Crop{document?.geometry ? '' : ' (none: theirs go)'}
              </Switch>
            </>
          )}
          <h3>How</h3>
          {found.length > 0 && (
            <Switch value={anew} onChange={setAnew}>
              Find the settings of {found.length === 1 ? found[0]!.name : `${found.length} layers`} anew
            </Switch>
          )}
          <Select label="How" hideLabel value={how} options={HOW.map(([id, words]) => [id, words] as const)} onChange={setHow} />
          <p>{HOW.find(([id]) => id === how)![2]} What was found is found anew; what was drawn is scaled and marked.</p>
        </Column>
        <Column>
          <Head>
            <h3 id="carry-to">To</h3>
            <Button onPress={() => choose('all')}>All</Button>
            <Button onPress={() => choose(new Set())}>None</Button>
          </Head>
          <Virtualizer layout={ListLayout} layoutOptions={ROW}>
            <Targets
              aria-labelledby="carry-to"
              items={others}
              selectionMode="multiple"
              selectionBehavior="toggle"
              selectedKeys={[...targets]}
              onSelectionChange={choose}
              renderEmptyState={() => 'There is no other photograph in this shoot.'}
            >
              {({ id, name, revision }) => (
                <Target id={id} textValue={name}>
                  <span>
                    <PreviewPicture database={database} id={id} revision={revision} />
                  </span>
                  <b>{name}</b>
                  <i aria-hidden />
                </Target>
              )}
            </Targets>
          </Virtualizer>
        </Column>
      </Columns>
      {problem && <p role="alert">{problem}</p>}
      {mine.length > 0 && (
        <Rows aria-label="Carried now">
          {mine.map((one) => (
            <CarryRow key={one.id} carry={one} refresh={refresh} />
          ))}
        </Rows>
      )}
      <DialogActions>
        <Button onPress={onClose}>Close</Button>
        <Button $primary isDisabled={asking || !something || chosen.length === 0} onPress={() => void carry()}>
          {chosen.length === 1 ? `Carry to ${chosen[0]!.name}` : `Carry to ${chosen.length} photographs`}
        </Button>
      </DialogActions>
    </>
  );
}
