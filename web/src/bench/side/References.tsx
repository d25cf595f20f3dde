'use client';
import type { ShootSummary } from '@umbo/data';
import { ClipboardPaste, FolderOpen } from 'lucide-react';
import { useEffect, useRef, useState, type DragEvent } from 'react';
import styled from 'styled-components';
import { IconButton } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Hint } from '@/ui/controls/Hint';
import { Select } from '@/ui/controls/Select';
import { FileInput } from '@/ui/FileInput';
import { request } from '@/ui/request';
import type { Reference as Opened, Sibling } from '../state/benchState';
import { useBench, useBenchStore } from '../state/context';
import { SAMPLE_SIZES } from '../state/samples';
import { Reference } from './Reference';
import { keyOf, pictureOf, pictureOfClipboard } from '../state/referencePictures';

const Column = styled.aside`
  position: relative;
  height: 100%;
  border-left: 1px solid var(--line);
  overflow-y: auto;
  min-height: 0;
  padding: 10px 12px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  scrollbar-width: thin;
`;
const Row = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 4px;
`;

/** Pictures to take colours from: photographs of any shoot as they came, files, and what is on the clipboard. */
export function References() {
  const store = useBenchStore();
  const open = useBench((state) => state.references) ?? [];
  const own = useBench((state) => state.shoot);
  const size = useBench((state) => state.sampleSize);
  const file = useRef<HTMLInputElement>(null);
  const [shoots, setShoots] = useState<readonly (readonly [string, string])[]>([]);
  const [shootId, setShootId] = useState(String(own.id));
  const [photographs, setPhotographs] = useState<readonly Sibling[]>(own.photographs);
  const fail = (error: Error): void => store.getState().set({ notice: error.message });
  useEffect(() => {
    request<ShootSummary[]>('GET', '/api/shoots').then((list) => setShoots(list.map(({ id, name }) => [String(id), name] as const)), fail);
  }, []);
  const chooseShoot = (id: string): void => {
    setShootId(id);
    request<{ photographs: Sibling[] }>('GET', `/api/shoots/${id}`).then((shoot) => setPhotographs(shoot.photographs), fail);
  };
  const change = (references: readonly Opened[]): void => store.getState().set({ references });
  const add = (reference: Opened): void => change([...(store.getState().references ?? []), reference]);
  const addFile = (chosen: Blob, name: string): void => void pictureOf(chosen, name).then(add, fail);
  const drop = (event: DragEvent): void => {
    const dropped = [...event.dataTransfer.files].filter(({ type }) => type.startsWith('image/'));
    if (dropped.length === 0) return;
    event.preventDefault();
    event.stopPropagation();
    for (const one of dropped) addFile(one, one.name);
  };
  const closed = photographs.filter((photograph) => !open.some((one) => keyOf(one) === keyOf({ kind: 'photograph', photograph })));
  return (
    <Column aria-label="References" onDrop={drop} onDragOver={(event) => event.preventDefault()}>
      {shoots.length > 1 && <Select label="Shoot of the references" hideLabel value={shootId} options={shoots} onChange={chooseShoot} />}
      <Row>
        <Select
          label="Open a reference"
          hideLabel
          value="none"
          options={[
            ['none', closed.length > 0 ? 'Open a photograph…' : 'No other photograph'],
            ...closed.map(({ id, name }) => [String(id), name] as const),
          ]}
          onChange={(id) => {
            const photograph = photographs.find((one) => String(one.id) === id);
            if (photograph) add({ kind: 'photograph', photograph });
          }}
        />
        <Hint text="Open a picture from a file (or drop it here)">
          <IconButton aria-label="Open a picture from a file" onPress={() => file.current?.click()}>
            <FolderOpen size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        <Hint text="Paste a picture from the clipboard">
          <IconButton aria-label="Paste a picture" onPress={() => void pictureOfClipboard().then(add, fail)}>
            <ClipboardPaste size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
      </Row>
      <Choice label="Sample size" value={size} options={SAMPLE_SIZES} onChange={(sampleSize) => store.getState().set({ sampleSize })} />
      {open.length === 0 && <p style={{ color: 'var(--ink2)' }}>Click on a picture opened here to take a colour from it.</p>}
      {open.map((reference) => (
        <Reference
          key={keyOf(reference)}
          reference={reference}
          close={() => change(open.filter((one) => keyOf(one) !== keyOf(reference)))}
        />
      ))}
      <FileInput input={file} label="A picture as a reference" accept="image/*" onFile={(chosen) => addFile(chosen, chosen.name)} />
    </Column>
  );
}
