'use client';
import { repeatable, topmost, type UmboDocument } from '@umbo/core/document';
import type { TreatmentSummary } from '@umbo/data';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { Select } from '@/ui/controls/Select';
import { TextField } from '@/ui/controls/TextField';
import { request } from '@/ui/request';
import { HowFound } from './HowFound';

const Form = styled.form`
  display: grid;
  gap: 14px;
  font-size: 12px;
  line-height: 16px;
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    max-height: 180px;
    overflow: auto;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 10px;
    align-items: center;
    min-height: 30px;
  }
  p {
    color: var(--ink2);
  }
`;

interface Props {
  photographId: number;
  document: UmboDocument;
  /** The layers that are kept; null: nothing is asked. */
  layers: readonly string[] | null;
  onClose: () => void;
  /** What was kept, and as which version. */
  onDone: (kept: { id: string; version: number; name: string }) => void;
  /** Resolves once everything the person sees is on the server. */
  kept: () => Promise<void>;
}

/** Asks how layers are kept as a treatment: by name and note, as a new one or as the next version of one. */
export function SaveTreatment(props: Props) {
  return (
    <Dialog title="Save as a treatment" isOpen={props.layers !== null} onClose={props.onClose} width={520}>
      {props.layers && <Asked {...props} layers={props.layers} />}
    </Dialog>
  );
}

const NEW = 'new';

function Asked({ photographId, document, layers, onClose, onDone, kept }: Props & { layers: readonly string[] }) {
  const [meant] = useState(() => topmost(document, new Set(layers)));
  const mark = meant.find(({ treatment }) => treatment)?.treatment;
  const [known, setKnown] = useState<readonly TreatmentSummary[]>([]);
  const [of, setOf] = useState<string>(NEW);
  const [name, setName] = useState(meant.length === 1 ? meant[0]!.name : '');
  const [note, setNote] = useState('');
  const [numbers, setNumbers] = useState<ReadonlySet<string>>(new Set());
  const [problem, setProblem] = useState<string | null>(null);
  const [saving, setSaving] = useState(false);
  useEffect(() => {
    // Without the list a new one can be saved.
    request<TreatmentSummary[]>('GET', '/api/treatments').then(
      (list) => {
        const own = list.filter(({ isStarter }) => !isStarter);
        setKnown(own);
        const before = own.find(({ id }) => id === mark?.id);
        if (!before) return;
        setOf(before.id);
        setName(before.name);
        setNote(before.note);
      },
      () => undefined,
    );
  }, [mark]);
  const anew = repeatable({ layers: meant, readings: document.readings ?? [] });

  const save = async (): Promise<void> => {
    setSaving(true);
    setProblem(null);
    try {
      await kept();
      const solve = anew.map(({ id }) => id).filter((id) => !numbers.has(id));
      const wish = {
        key: crypto.randomUUID(),
        photographId,
        layers,
        solve,
        name: name.trim(),
        note: note.trim(),
        of: of === NEW ? null : of,
      };
      onDone({ ...(await request<{ id: string; version: number }>('POST', '/api/treatments', wish)), name: wish.name });
    } catch (error) {
      setProblem((error as Error).message);
      setSaving(false);
    }
  };
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() && !saving) void save();
      }}
    >
      {known.length > 0 && (
        <Select
          label="As"
          value={of}
          options={[
            [NEW, 'A new treatment'],
            ...known.map(({ id, name: one, version }) => [id, `Version ${version + 1} of ${one}`] as const),
          ]}
          onChange={(to) => {
            setOf(to);
            const one = known.find(({ id }) => id === to);
            if (!one) return;
            setName(one.name);
            setNote(one.note);
          }}
        />
      )}
      <TextField label="Name" value={name} onChange={setName} autoFocus />
      <TextField label="Note" value={note} onChange={setNote} lines={2} />
      {anew.length > 0 && (
        <ul aria-label="Settings that can be found anew">
          {anew.map((layer) => (
            <li key={layer.id}>
              {layer.name}
              <HowFound
                layer={layer}
                isAnew={!numbers.has(layer.id)}
                onChange={(to) => setNumbers((before) => new Set(to ? [...before].filter((id) => id !== layer.id) : [...before, layer.id]))}
              />
            </li>
          ))}
        </ul>
      )}
      <p>Regions go along and are found anew on other photographs; what was drawn is scaled and marked.</p>
      {problem && <p role="alert">{problem}</p>}
      <DialogActions>
        <Button onPress={onClose}>Cancel</Button>
        <Button $primary type="submit" isDisabled={!name.trim() || saving}>
          Save
        </Button>
      </DialogActions>
    </Form>
  );
}
