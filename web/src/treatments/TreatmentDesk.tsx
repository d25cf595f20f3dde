'use client';
import { contentKind, eachLayer, repeatable, type Layer } from '@umbo/core/document';
import { treatmentFile } from '@umbo/core/treatment';
import type { TreatmentDetail, TreatmentSummary, TreatmentUse } from '@umbo/data';
import { Download, Pencil, Trash2 } from 'lucide-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { AskSure, type Warning } from '@/ui/AskSure';
import { Button, IconButton } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { Hint } from '@/ui/controls/Hint';
import { PageTitle } from '@/ui/controls/PageTitle';
import { TextField } from '@/ui/controls/TextField';
import { request } from '@/ui/request';
import { saveFile } from '@/ui/saveFile';
import { foundAnewWords, HowFound } from './HowFound';
import { TryOn } from './TryOn';
import { UsedBy } from './UsedBy';

const Desk = styled.div`
  padding: 22px 24px 60px;
  display: grid;
  gap: 18px;
`;
const Head = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 4px 16px;
  align-items: start;
  p {
    color: var(--ink2);
    max-width: 620px;
    white-space: pre-line;
  }
`;
const Actions = styled.div`
  display: flex;
  gap: 6px;
`;
const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 32px;
  align-items: start;
`;
const Part = styled.section`
  h2 {
    font: 650 12px/16px var(--sans);
    margin: 0 0 6px;
  }
`;
const Layers = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 10px;
    align-items: center;
    min-height: 30px;
    border-bottom: 1px solid var(--line);
  }
  li > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  small {
    font-size: 12px;
    color: var(--ink2);
  }
`;
const Picture = styled.img`
  max-width: 100%;
  max-height: 170px;
`;

interface Props {
  summary: TreatmentSummary;
  database: string;
  shoots: readonly { id: number; name: string }[];
  shootId: number | null;
  of: readonly number[];
  onChanged: () => void;
}

interface Known {
  treatment: TreatmentDetail;
  uses: readonly TreatmentUse[];
}

/** One treatment: what it does, where it is used, what would come of it. */
export function TreatmentDesk({ summary, database, shoots, shootId, of, onChanged }: Props) {
  const { id, isStarter } = summary;
  const [known, setKnown] = useState<Known | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [naming, setNaming] = useState(false);
  const [warning, setWarning] = useState<Warning | null>(null);
  // What is being removed is not asked for any more, whatever the server tells of its photographs meanwhile.
  const leaving = useRef(false);
  const refresh = useCallback(
    async () =>
      leaving.current
        ? undefined
        : request<Known>('GET', `/api/treatments/${id}`).then(setKnown, (error: Error) => setProblem(error.message)),
    [id],
  );
  useEffect(() => void refresh(), [refresh]);

  if (!known) return <Desk>{problem && <p role="alert">{problem}</p>}</Desk>;
  const { treatment, uses } = known;
  const change = async (to: Partial<Pick<TreatmentDetail, 'name' | 'note' | 'solve'>>): Promise<void> => {
    const { name, note, solve } = { ...treatment, ...to };
    try {
      await request('PATCH', `/api/treatments/${id}`, { name, note, solve });
      await refresh();
      onChanged();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const askRemove = (): void =>
    setWarning({
      title: `Remove the treatment “${treatment.name}”?`,
      words: uses.length === 0 ? 'No photograph uses it.' : 'Photographs keep the layers that came from it.',
      button: 'Remove',
      then() {
        leaving.current = true;
        void request('DELETE', `/api/treatments/${id}`).then(onChanged, (error: Error) => {
          leaving.current = false;
          setProblem(error.message);
        });
      },
    });
  return (
    <Desk>
      <TreatmentHead treatment={treatment} isStarter={isStarter} onName={() => setNaming(true)} onRemove={askRemove} />
      {problem && <p role="alert">{problem}</p>}
      <Two>
        <Part aria-labelledby="treatment-layers">
          <h2 id="treatment-layers">What it does{isStarter ? '' : `, version ${treatment.version}`}</h2>
          <LayerList treatment={treatment} onSolve={isStarter ? null : (solve) => void change({ solve })} />
        </Part>
        <Part>
          {treatment.hasPicture && (
            <Picture src={`/api/treatments/${id}/picture?version=${treatment.version}`} alt="The photograph that it was made on" />
          )}
          <UsedBy treatment={treatment} uses={uses} refresh={refresh} />
        </Part>
      </Two>
      {shootId !== null && (
        <TryOn
          treatmentId={id}
          version={treatment.version}
          database={database}
          shoots={shoots}
          shootId={shootId}
          of={of}
          onRun={() => void refresh()}
        />
      )}
      <Naming treatment={treatment} isOpen={naming} onClose={() => setNaming(false)} onDone={(to) => void change(to)} />
      <AskSure warning={warning} onDone={() => setWarning(null)} />
    </Desk>
  );
}

interface HeadProps {
  treatment: TreatmentDetail;
  /** Starters cannot be changed. */
  isStarter: boolean;
  onName: () => void;
  onRemove: () => void;
}

function TreatmentHead({ treatment, isStarter, onName, onRemove }: HeadProps) {
  return (
    <Head>
      <PageTitle>{treatment.name}</PageTitle>
      <Actions>
        {!isStarter && (
          <Hint text="Change its name or note">
            <IconButton aria-label="Change its name or note" onPress={onName}>
              <Pencil size={14} strokeWidth={1.5} />
            </IconButton>
          </Hint>
        )}
        <Hint text="Save as a file">
          <IconButton
            aria-label="Save as a file"
            onPress={() => saveFile(`${treatment.name}.umbo-treatment.json`, JSON.stringify(treatmentFile(treatment)), 'application/json')}
          >
            <Download size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        {!isStarter && (
          <Hint text="Remove it">
            <IconButton aria-label="Remove it" onPress={onRemove}>
              <Trash2 size={14} strokeWidth={1.5} />
            </IconButton>
          </Hint>
        )}
      </Actions>
      <p>{treatment.note}</p>
    </Head>
  );
}

const kindOf = ({ what }: Layer): string => contentKind(what)?.name ?? '';

/** Every layer, and of those whose settings can be found anew whether they are. */
function LayerList({ treatment, onSolve }: { treatment: TreatmentDetail; onSolve: ((solve: string[]) => void) | null }) {
  const { document, solve } = treatment;
  const [group] = document.layers;
  const anew = new Set(repeatable(document).map(({ id }) => id));
  const layers = [...eachLayer(document.layers)].filter((layer) => layer !== group);
  return (
    <Layers aria-label="Layers of the treatment">
      {layers.map((layer) => (
        <li key={layer.id}>
          <span>
            {layer.name} <small>{kindOf(layer) === layer.name ? '' : kindOf(layer)}</small>
          </span>
          {!anew.has(layer.id) ? null : onSolve ? (
            <HowFound
              layer={layer}
              isAnew={solve.includes(layer.id)}
              onChange={(to) => onSolve(to ? [...solve, layer.id] : solve.filter((one) => one !== layer.id))}
            />
          ) : (
            <small>{foundAnewWords(layer).toLowerCase()}</small>
          )}
        </li>
      ))}
    </Layers>
  );
}

interface NamingProps {
  treatment: TreatmentDetail;
  isOpen: boolean;
  onClose: () => void;
  onDone: (to: { name: string; note: string }) => void;
}

function Naming({ treatment, isOpen, onClose, onDone }: NamingProps) {
  return (
    <Dialog title="Name and note" isOpen={isOpen} onClose={onClose}>
      {isOpen && <NamingForm treatment={treatment} onClose={onClose} onDone={onDone} />}
    </Dialog>
  );
}

function NamingForm({ treatment, onClose, onDone }: Omit<NamingProps, 'isOpen'>) {
  const [name, setName] = useState(treatment.name);
  const [note, setNote] = useState(treatment.note);
  return (
    <form
      style={{ display: 'grid', gap: 14 }}
      onSubmit={(event) => {
        event.preventDefault();
        onDone({ name: name.trim(), note: note.trim() });
        onClose();
      }}
    >
      <TextField label="Name" value={name} onChange={setName} autoFocus />
      <TextField label="Note" value={note} onChange={setNote} lines={4} />
      <DialogActions>
        <Button onPress={onClose}>Cancel</Button>
        <Button $primary type="submit" isDisabled={!name.trim()}>
          Change
        </Button>
      </DialogActions>
    </form>
  );
}
