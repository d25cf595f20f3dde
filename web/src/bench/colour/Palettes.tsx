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
  const space = useSpace();
  const shootId = useBench((state) => state.shoot.id);
  const palettes = usePalettes(shootId);
  const [chosen, setChosen] = useState<number | null>(null);
  const [question, setQuestion] = useState<Question | null>(null);
  const [warning, setWarning] = useState<Warning | null>(null);
  /** The swatch that was just kept: typing names it. */
  const [naming, setNaming] = useState<number | null>(null);
  const [problem, importFile] = useImport(palettes);
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
  const askRemove = (one: Palette): void =>
    setWarning({
      title: `Delete the palette “${one.name}”?`,
      words: 'Its swatches go with it, for all photographs of the shoot.',
      button: 'Delete',
      then: () => void palettes.remove(one.id),
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
        <PaletteMenu
          palette={palette}
          onNew={() => askName('New palette', '', (name) => void palettes.create(name, []))}
          onImport={() => picker.current?.click()}
          onRename={(one) => askName('Rename the palette', one.name, (name) => void palettes.rename(one.id, name))}
          onRemove={askRemove}
        />
      </Head>
      <Row>
        {palette?.swatches.map((swatch) => (
          <SwatchButton
            key={swatch.id}
            swatch={swatch}
            onRename={() => rename(swatch)}
            onRemove={() => void palettes.removeSwatch(swatch.id)}
          />
        ))}
      </Row>
      {named && (
        <NameField
          key={named.id}
          name={named.name}
          onDone={(name) => {
            setNaming(null);
            if (name !== '' && name !== named.name) void palettes.renameSwatch(named.id, name);
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

/** Makes a palette of a file. @returns what went wrong with the last one, and what imports */
function useImport({ create }: ReturnType<typeof usePalettes>): [string | null, (file: File) => Promise<void>] {
  const space = useSpace();
  const [problem, setProblem] = useState<string | null>(null);
  const importFile = async (file: File): Promise<void> => {
    try {
      const { name, swatches } = readPalette(file.name, await file.text());
      await create(
        name,
        swatches.map((one) => ({ ...one, colour: colourBetween(srgb, space, one.colour) })),
      );
      setProblem(null);
    } catch (error) {
      setProblem(`“${file.name}” was not imported. ${(error as Error).message}`);
    }
  };
  return [problem, importFile];
}

interface PaletteMenuProps {
  palette: Palette | undefined;
  onNew: () => void;
  onImport: () => void;
  onRename: (palette: Palette) => void;
  onRemove: (palette: Palette) => void;
}

function PaletteMenu({ palette, onNew, onImport, onRename, onRemove }: PaletteMenuProps) {
  const space = useSpace();
  const inSrgb = (one: Palette): Palette => ({
    ...one,
    swatches: one.swatches.map((swatch) => ({ ...swatch, colour: colourBetween(space, srgb, swatch.colour).map(unit) as Colour })),
  });
  return (
    <MenuTrigger>
      <IconButton aria-label="More about the palette">
        <MoreHorizontal size={14} strokeWidth={1.5} />
      </IconButton>
      <Floating>
        <Menu>
          <MenuItem onAction={onNew}>New palette…</MenuItem>
          <MenuItem onAction={onImport}>Import from CSV or JSON…</MenuItem>
          <MenuLine />
          <MenuItem isDisabled={!palette} onAction={() => palette && onRename(palette)}>
            Rename…
          </MenuItem>
          <MenuItem
            isDisabled={!palette}
            onAction={() => palette && saveFile(`${palette.name}.csv`, paletteCsv(inSrgb(palette)), 'text/csv')}
          >
            Export as CSV
          </MenuItem>
          <MenuItem
            isDisabled={!palette}
            onAction={() => palette && saveFile(`${palette.name}.json`, paletteJson(inSrgb(palette)), 'application/json')}
          >
            Export as JSON
          </MenuItem>
          <MenuItem isDisabled={!palette} onAction={() => palette && onRemove(palette)}>
            Delete the palette…
          </MenuItem>
        </Menu>
      </Floating>
    </MenuTrigger>
  );
}

interface SwatchButtonProps {
  swatch: Palette['swatches'][number];
  onRename: () => void;
  onRemove: () => void;
}

/** Takes the colour; a right click or a long press has more. */
function SwatchButton({ swatch, onRename, onRemove }: SwatchButtonProps) {
  const store = useBenchStore();
  const space = useSpace();
  const [menuIsOpen, setMenuOpen] = useState(false);
  return (
    <MenuTrigger trigger="longPress" isOpen={menuIsOpen} onOpenChange={setMenuOpen}>
      <Hint text={`${swatch.name} · right-click for more, double-click renames`}>
        <Swatch
          aria-label={swatch.name}
          style={{ background: cssOf(swatch.colour, space) }}
          onPress={() => takeColour(store.getState(), swatch.colour)}
          onContextMenu={(event) => {
            event.preventDefault();
            setMenuOpen(true);
          }}
          onDoubleClick={onRename}
        />
      </Hint>
      <Floating>
        <Menu>
          <MenuItem onAction={onRename}>Rename…</MenuItem>
          <MenuItem onAction={onRemove}>Delete</MenuItem>
        </Menu>
      </Floating>
    </MenuTrigger>
  );
}

/** Names a swatch that was just kept. @param onDone gets what was typed */
function NameField({ name, onDone }: { name: string; onDone: (name: string) => void }) {
  return (
    <TextInput
      autoFocus
      aria-label="Name of the new swatch"
      defaultValue={name}
      onFocus={(event) => event.target.select()}
      onBlur={(event) => onDone(event.target.value.trim())}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') event.currentTarget.value = name;
        if (event.key === 'Escape' || event.key === 'Enter') event.currentTarget.blur();
      }}
    />
  );
}
