'use client';
import { unit } from '@umbo/core/base';
import { colourBetween, srgb, type Colour } from '@umbo/core/colour';
import type { Palette } from '@umbo/data';
import { MoreHorizontal, Plus } from 'lucide-react';
import { useRef, useState } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { AskSure, type Warning } from '@/ui/AskSure';
import { AskWords, type Question } from '@/ui/AskWords';
import { IconButton } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { Menu, MenuItem, MenuLine } from '@/ui/controls/Menu';
import { Select } from '@/ui/controls/Select';
import { TextInput } from '@/ui/controls/TextField';
import { FileInput } from '@/ui/FileInput';
import { saveFile } from '@/ui/saveFile';
import { takeColour } from '../state/actions';
import { cssOf, hexOf } from '@/ui/hexOf';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { Swatch } from './Swatch';
import { paletteCsv, paletteJson, readPalette } from './paletteFiles';
import { usePalettes } from './usePalettes';

const Box = styled.div`
  margin-top: 8px;
  padding-top: 6px;
  border-top: 1px solid var(--line);
`;
const Head = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
  margin-bottom: 6px;
  > :first-child {
    flex: 1;
    min-width: 0;
  }
`;
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
`;

/** Named colours that are kept with the shoot. @param colour the one that a new swatch gets */
export function Palettes({ colour }: { colour: Colour }) {
  const store = useBenchStore();
  const space = useSpace();
  const shootId = useBench((state) => state.shoot.id);
  const palettes = usePalettes(shootId);
  const [chosen, setChosen] = useState<number | null>(null);
  const [question, setQuestion] = useState<Question | null>(null);
  const [warning, setWarning] = useState<Warning | null>(null);
  const [menu, setMenu] = useState<number | null>(null);
  /** The swatch that was just kept: typing names it. */
  const [naming, setNaming] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const picker = useRef<HTMLInputElement>(null);
  const list = palettes.list ?? [];
  const palette = list.find(({ id }) => id === chosen) ?? list[0];

  const askName = (title: string, text: string, then: (name: string) => void): void =>
    setQuestion({ title, label: 'Name', text, button: 'Name it', then });
  const rename = (swatch: { id: number; name: string }): void =>
    askName('Rename the swatch', swatch.name, (name) => void palettes.renameSwatch(swatch.id, name));
  const add = async (): Promise<void> => {
    const swatch = { name: hexOf(colour, space), colour };
    const made = palette
      ? await palettes.addSwatch(palette.id, swatch.name, colour)
      : (await palettes.create('Palette', [swatch]))?.swatches[0];
    setNaming(made?.id ?? null);
  };
  const importFile = async (file: File): Promise<void> => {
    try {
      const { name, swatches } = readPalette(file.name, await file.text());
      await palettes.create(
        name,
        swatches.map((one) => ({ ...one, colour: colourBetween(srgb, space, one.colour) })),
      );
      setProblem(null);
    } catch (error) {
      setProblem(`“${file.name}” was not imported. ${(error as Error).message}`);
    }
  };
  const act = (key: string): void => {
    if (key === 'new') askName('New palette', '', (name) => void palettes.create(name, []));
    else if (key === 'import') picker.current?.click();
    else if (palette && key === 'rename') askName('Rename the palette', palette.name, (name) => void palettes.rename(palette.id, name));
    else if (palette && key === 'remove')
      setWarning({
        title: `Delete the palette “${palette.name}”?`,
        words: 'Its swatches go with it, for all photographs of the shoot.',
        button: 'Delete',
        then: () => void palettes.remove(palette.id),
      });
    else if (palette && key === 'csv') saveFile(`${palette.name}.csv`, paletteCsv(inSrgb(palette)), 'text/csv');
    else if (palette && key === 'json') saveFile(`${palette.name}.json`, paletteJson(inSrgb(palette)), 'application/json');
  };
  const inSrgb = (one: Palette): Palette => ({
    ...one,
    swatches: one.swatches.map((swatch) => ({ ...swatch, colour: colourBetween(space, srgb, swatch.colour).map(unit) as Colour })),
  });
  const words = problem ?? palettes.problem;
  const named = naming === null ? undefined : palette?.swatches.find(({ id }) => id === naming);

  return (
    <Box role="group" aria-label="Palettes">
      <Head>
        {list.length > 1 && palette ? (
          <Select
            label="Palette"
            hideLabel
            value={String(palette.id)}
            options={list.map((one) => [String(one.id), one.name] as const)}
            onChange={(id) => setChosen(Number(id))}
          />
        ) : (
          <span>{palette?.name ?? 'No palette yet'}</span>
        )}
        <Hint text="Keep the colour as a swatch">
          <IconButton aria-label="Keep the colour as a swatch" isDisabled={palettes.list === null} onPress={() => void add()}>
            <Plus size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        <MenuTrigger>
          <IconButton aria-label="More about the palette">
            <MoreHorizontal size={14} strokeWidth={1.5} />
          </IconButton>
          <Floating>
            <Menu onAction={(key) => act(String(key))} disabledKeys={palette ? [] : ['rename', 'remove', 'csv', 'json']}>
              <MenuItem id="new">New palette…</MenuItem>
              <MenuItem id="import">Import from CSV or JSON…</MenuItem>
              <MenuLine />
              <MenuItem id="rename">Rename…</MenuItem>
              <MenuItem id="csv">Export as CSV</MenuItem>
              <MenuItem id="json">Export as JSON</MenuItem>
              <MenuItem id="remove">Delete the palette…</MenuItem>
            </Menu>
          </Floating>
        </MenuTrigger>
      </Head>
      <Row>
        {palette?.swatches.map((swatch) => (
          <MenuTrigger
            key={swatch.id}
            trigger="longPress"
            isOpen={menu === swatch.id}
            onOpenChange={(open) => setMenu(open ? swatch.id : null)}
          >
            <Hint text={`${swatch.name} · right-click for more, double-click renames`}>
              <Swatch
                aria-label={swatch.name}
                style={{ background: cssOf(swatch.colour, space) }}
                onPress={() => takeColour(store.getState(), swatch.colour)}
                onContextMenu={(event) => {
                  event.preventDefault();
                  setMenu(swatch.id);
                }}
                onDoubleClick={() => rename(swatch)}
              />
            </Hint>
            <Floating>
              <Menu onAction={(key) => (key === 'rename' ? rename(swatch) : void palettes.removeSwatch(swatch.id))}>
                <MenuItem id="rename">Rename…</MenuItem>
                <MenuItem id="remove">Delete</MenuItem>
              </Menu>
            </Floating>
          </MenuTrigger>
        ))}
      </Row>
      {named && (
        <TextInput
          key={named.id}
          autoFocus
          aria-label="Name of the new swatch"
          defaultValue={named.name}
          onFocus={(event) => event.target.select()}
          onBlur={(event) => {
            const name = event.target.value.trim();
            setNaming(null);
            if (name !== '' && name !== named.name) void palettes.renameSwatch(named.id, name);
          }}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Escape') event.currentTarget.value = named.name;
            if (event.key === 'Escape' || event.key === 'Enter') event.currentTarget.blur();
          }}
        />
      )}
      {words && <p role="alert">{words}</p>}
      <FileInput
        input={picker}
        label="A palette to import"
        accept=".csv,.json,text/csv,application/json"
        onFile={(file) => void importFile(file)}
      />
      <AskWords question={question} onDone={() => setQuestion(null)} />
      <AskSure warning={warning} onDone={() => setWarning(null)} />
    </Box>
  );
}
