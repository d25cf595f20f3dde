'use client';
import { repeatable, type Layer, type UmboDocument } from '@umbo/core/document';
import type { CarryManner } from '@umbo/data';
import { useEffect, useMemo, useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { Select } from '@/ui/controls/Select';
import { Switch } from '@/ui/controls/Switch';
import { request } from '@/ui/request';
import { CarriedChoice } from './CarriedChoice';
import { CarryTargets } from './CarryTargets';
import { CarryRow } from './CarryRow';
import { useCarries } from './useCarries';
import { usePhotographs } from './usePhotographs';

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
const Rows = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--line);
`;

const HOW: readonly (readonly [CarryManner, string, string])[] = [
  [
    'replace',
    'Replace an earlier copy',
    'Layers that were copied from these before are replaced where they stand; new ones are added on top.',
  ],
  ['changes', 'Only what changed since', 'What was changed on those photographs meanwhile is kept.'],
  ['add', 'Add on top', 'Adds the layers above all others, even where they were copied before.'],
  ['whole', 'Replace the whole edit', 'Replaces the layers, readings and strength of those photographs.'],
];

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

/** The edit that it comes from, once it is kept; null: not there yet. @param onRead hears of each one that is read */
function useSource(
  sourceId: number | null,
  kept: Props['kept'],
  fail: (words: string) => void,
  onRead: (document: UmboDocument) => void,
): UmboDocument | null {
  const [document, setDocument] = useState<UmboDocument | null>(null);
  useEffect(() => {
    if (sourceId === null) return;
    let current = true;
    const read = async (): Promise<void> => {
      await kept?.();
      const { edit } = await request<{ edit: { document: UmboDocument } }>('GET', `/api/photographs/${sourceId}`);
      if (!current) return;
      setDocument(edit.document);
      onRead(edit.document);
    };
    read().catch((error: Error) => current && fail(error.message));
    return () => void (current = false);
  }, [sourceId]);
  return document;
}

function Form({ database, shootId, from, to, layers: meant, onClose, kept }: Props) {
  const [sourceId, setSourceId] = useState(from);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [also, setAlso] = useState({ regions: false, readings: false, geometry: false });
  const [anew, setAnew] = useState(true);
  const [how, setHow] = useState<CarryManner>('replace');
  const [targets, setTargets] = useState<ReadonlySet<number>>(new Set(to));
  const [problem, setProblem] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);
  const [asked, setAsked] = useState<readonly string[]>([]);
  const { list, refresh } = useCarries(shootId);
  const photographs = usePhotographs(shootId, setProblem);
  // What is meant already is only where one begins.
  const document = useSource(sourceId, kept, setProblem, ({ layers: there }) => {
    const wanted = there.filter(({ id }) => meant.includes(id));
    setLeft(new Set(wanted.length > 0 ? there.filter((one) => !wanted.includes(one)).map(({ id }) => id) : []));
  });

  const others = useMemo(() => photographs.filter(({ id }) => id !== sourceId), [photographs, sourceId]);
  const chosen = others.filter(({ id }) => targets.has(id));
  const layers = document?.layers ?? [];
  const taken = layers.filter(({ id }) => !left.has(id));
  const readings = document?.readings?.length ?? 0;
  const regions = document?.regions?.length ?? 0;
  const found = repeatable({ layers: taken, readings: document?.readings ?? [] });
  const something = taken.length > 0 || (also.regions && regions > 0) || (also.readings && readings > 0) || also.geometry;

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
            <CarriedChoice document={document} left={left} onLeft={setLeft} also={also} onAlso={setAlso} />
          )}
          <h3>How</h3>
          <HowLines found={found} anew={anew} onAnew={setAnew} how={how} onHow={setHow} />
        </Column>
        <Column>
          <CarryTargets database={database} photographs={others} chosen={targets} onChoose={setTargets} />
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

interface HowProps {
  /** Layers whose settings can be found anew. */
  found: readonly Layer[];
  anew: boolean;
  onAnew: (anew: boolean) => void;
  how: CarryManner;
  onHow: (how: CarryManner) => void;
}

function HowLines({ found, anew, onAnew, how, onHow }: HowProps) {
  return (
    <>
      {found.length > 0 && (
        <Switch value={anew} onChange={onAnew}>
          Find the settings of {found.length === 1 ? found[0]!.name : `${found.length} layers`} anew
        </Switch>
      )}
      <Select label="How" hideLabel value={how} options={HOW.map(([id, words]) => [id, words] as const)} onChange={onHow} />
      <p>{HOW.find(([id]) => id === how)![2]} What was found is found anew; what was drawn is scaled and marked.</p>
    </>
  );
}
