'use client';
import { lutOf, lutSettings, type SettingsOf } from '@umbo/core/adjust';
import { cleanName, shorten } from '@umbo/core/base';
import { parseCube, writeCube } from '@umbo/core/format';
import { Download, FolderOpen } from 'lucide-react';
import { useRef } from 'react';
import { Button } from '@/ui/controls/Button';
import { FileInput } from '@/ui/FileInput';
import { saveFile } from '@/ui/saveFile';
import { useBenchStore } from '../state/context';
import type { ContentProps } from './contentProps';
import { Line, Quiet } from './editorParts';

/** A table of this many points a side fills the largest file that is read. */
const LARGEST_FILE = 20_000_000;

export function LutEditor({ layer, settings, commit }: ContentProps<SettingsOf<'lut3d'>>) {
  const store = useBenchStore();
  const input = useRef<HTMLInputElement>(null);
  const isEmpty = settings.title === '' && settings.size === 2;
  const read = async (file: File): Promise<void> => {
    try {
      if (file.size > LARGEST_FILE) throw new RangeError('The file is larger than 20 MB.');
      const lut = parseCube(await file.text());
      const title = lut.title || shorten(cleanName(file.name.replace(/\.cube$/i, '')), 120) || 'Table';
      commit(`3D LUT ${title}`, lutSettings({ ...lut, title }));
    } catch (error) {
      store.getState().set({ notice: `“${file.name}” could not be read: ${(error as Error).message}` });
    }
  };
  return (
    <>
      <Quiet>
        {isEmpty ? 'No table yet: open a .cube file of 2 to 65 points a side.' : `“${settings.title}”, ${settings.size} points a side`}
      </Quiet>
      <Line>
        <FileInput input={input} label="A .cube file" accept=".cube" onFile={(file) => void read(file)} />
        <Button $primary={isEmpty} onPress={() => input.current?.click()}>
          <FolderOpen size={14} strokeWidth={1.5} aria-hidden /> {isEmpty ? 'Open a .cube file' : 'Open another'}
        </Button>
        {!isEmpty && (
          <Button onPress={() => saveFile(`${settings.title || layer.name}.cube`, writeCube(lutOf(settings)), 'text/plain')}>
            <Download size={14} strokeWidth={1.5} aria-hidden /> Save as .cube
          </Button>
        )}
      </Line>
    </>
  );
}
