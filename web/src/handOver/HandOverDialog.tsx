'use client';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import type { HandOverOptions } from '@umbo/data';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Switch } from '@/ui/controls/Switch';
import { TextField } from '@/ui/controls/TextField';
import { Slider } from '@/ui/controls/Slider';
import { request } from '@/ui/request';
import { HandOverRow } from './HandOverRow';
import { fileName, FORMATS, SPACES } from './options';
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
  /** How many alternatives its colourway sets have. */
  colourways: number;
  isOpen: boolean;
  onClose: () => void;
  /** Resolves once everything the person sees is on the server. */
  kept: () => Promise<void>;
}

/** Asks for a file of the photograph in work, and shows it coming. */
export function HandOverDialog({ photograph, colourways, isOpen, onClose, kept }: Props) {
  const [options, setOptions] = useState<HandOverOptions>({
    fileName: fileName(photograph.name, 'jpeg'),
    format: 'jpeg',
    bits: 8,
    space: 'srgb',
    quality: 92,
  });
  const [everyOne, setEveryOne] = useState(false);
  const [asking, setAsking] = useState(false);
  const [asked, setAsked] = useState<number[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const { list, refresh } = useHandOvers([]);
  const mine = list.filter(({ id }) => asked.includes(id));
  useEffect(() => {
    if (asked.length > 0) void refresh();
  }, [asked, refresh]);

  const set = (values: Partial<HandOverOptions>): void => setOptions((now) => ({ ...now, ...values }));
  const setFormat = (format: HandOverOptions['format']): void =>
    setOptions((now) => ({
      ...now,
      format,
      bits: format === 'jpeg' ? 8 : photograph.bits === 16 ? 16 : now.bits,
      fileName: now.fileName === fileName(photograph.name, now.format) ? fileName(photograph.name, format) : now.fileName,
    }));
  const ask = async (): Promise<void> => {
    setAsking(true);
    setProblem(null);
    try {
      await kept();
      const { ids } = await request<{ ids: number[] }>('POST', '/api/hand-overs', {
        key: crypto.randomUUID(),
        photographId: photograph.id,
        options,
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
      <TextField label="File name" value={options.fileName} onChange={(name) => set({ fileName: name })} />
      <LabelledLine>
        Format <Choice label="Format" value={options.format} options={FORMATS} onChange={setFormat} />
      </LabelledLine>
      <LabelledLine>
        Depth
        <Choice
          label="Depth"
          isDisabled={options.format === 'jpeg'}
          value={String(options.bits) as '8' | '16'}
          options={[
            ['8', '8 bit'],
            ['16', '16 bit'],
          ]}
          onChange={(bits) => set({ bits: bits === '16' ? 16 : 8 })}
        />
      </LabelledLine>
      <LabelledLine>
        Profile <Choice label="Profile" value={options.space} options={SPACES} onChange={(space) => set({ space })} />
      </LabelledLine>
      {options.format === 'jpeg' && (
        <div style={{ fontSize: 12, lineHeight: '16px' }}>
          <Slider
            label="Quality"
            value={options.quality}
            min={1}
            max={100}
            step={1}
            neutral={92}
            onPreview={(quality) => set({ quality: Math.round(quality) })}
            onCommit={(quality) => set({ quality: Math.round(quality) })}
          />
        </div>
      )}
      {colourways > 0 && (
        <LabelledLine>
          <span />
          <Switch value={everyOne} onChange={setEveryOne}>
            Every colourway, one file each ({colourways})
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
        <Button $primary isDisabled={asking || !options.fileName.trim()} onPress={() => void ask()}>
          {asking ? 'Asking…' : colourways > 0 && everyOne ? `Render ${colourways} files` : 'Render the file'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
