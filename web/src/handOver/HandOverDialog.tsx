'use client';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Switch } from '@/ui/controls/Switch';
import { TextField } from '@/ui/controls/TextField';
import { request } from '@/ui/request';
import { FileOptions, type Options } from './FileOptions';
import { HandOverRow } from './HandOverRow';
import { fileName } from './options';
import { useHandOvers } from './useHandOvers';

const Files = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--line);
  font-size: 12px;
  line-height: 16px;
`;

interface Props {
  photograph: { id: number; name: string; bits: number };
  shootId: number;
  /** How many alternatives its colourway sets have. */
  colourways: number;
  isOpen: boolean;
  onClose: () => void;
  /** Resolves once everything the person sees is on the server. */
  kept: () => Promise<void>;
}

/** Asks for a file of the photograph in work, and shows it coming. */
export function HandOverDialog({ photograph, shootId, colourways, isOpen, onClose, kept }: Props) {
  const [options, setOptions] = useState<Options>({
    format: 'jpeg',
    bits: 8,
    space: 'srgb',
    quality: 92,
  });
  const [typed, setTyped] = useState<string | null>(null);
  // A name that nobody typed follows the format.
  const name = typed ?? fileName(photograph.name, options.format);
  const [everyOne, setEveryOne] = useState(false);
  const [asking, setAsking] = useState(false);
  const [asked, setAsked] = useState<number[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const { list, refresh } = useHandOvers([]);
  const mine = list.filter(({ id }) => asked.includes(id));
  useEffect(() => {
    if (asked.length > 0) void refresh();
  }, [asked, refresh]);

  const ask = async (): Promise<void> => {
    setAsking(true);
    setProblem(null);
    try {
      await kept();
      const { ids } = await request<{ ids: number[] }>('POST', '/api/hand-overs', {
        key: crypto.randomUUID(),
        photographId: photograph.id,
        options: { ...options, fileName: name },
        colourways: colourways > 0 && everyOne,
      });
      setAsked((before) => [...ids, ...before]);
    } catch (error) {
      setProblem((error as Error).message);
    }
    setAsking(false);
  };

  return (
    <Dialog title={`Hand over “${photograph.name}”`} isOpen={isOpen} onClose={onClose} width={640}>
      <TextField label="File name" value={name} onChange={setTyped} />
      <FileOptions options={options} shootId={shootId} depth={photograph.bits === 16 ? 16 : 8} onChange={setOptions} />
      {colourways > 0 && (
        <LabelledLine>
          <span />
          <Switch value={everyOne} onChange={setEveryOne}>
            A file for every colourway ({colourways})
          </Switch>
        </LabelledLine>
      )}
      {problem && <p role="alert">{problem}</p>}
      {mine.length > 0 && (
        <Files aria-label="Files of this photograph">
          {mine.map((item) => (
            <HandOverRow key={item.id} item={item} refresh={refresh} />
          ))}
        </Files>
      )}
      <DialogActions>
        <Link href="/hand-over" style={{ marginRight: 'auto', alignSelf: 'center' }}>
          All hand-overs
        </Link>
        <Button onPress={onClose}>Close</Button>
        <Button $primary isDisabled={asking || !name.trim()} onPress={() => void ask()}>
          {asking ? 'Asking…' : colourways > 0 && everyOne ? `Render ${colourways} files` : 'Render the file'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
