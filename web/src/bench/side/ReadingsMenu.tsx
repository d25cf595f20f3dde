'use client';
import { Check, MoreHorizontal } from 'lucide-react';
import { useRef } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { BareButton } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { FileInput } from '@/ui/FileInput';
import { saveFile } from '@/ui/saveFile';
import { useBench, useBenchStore } from '../state/context';
import { readingsOf, setTargets } from '../state/readings';
import type { BenchState, Notation } from '../state/benchState';
import { notationOf, NOTATIONS } from './notations';
import { asCgats, asCsv, copyNumbers, readColours } from './readingFiles';
import { DEVICE, measuredText } from './simulatedDevice';

const Place = styled.span`
  display: flex;
  align-items: center;
  gap: 2px;
  height: 16px;
`;
const Tick = styled(Check)`
  margin: 0 4px 0 -4px;
  vertical-align: -2px;
`;

const ACTIONS: Readonly<Record<string, (state: BenchState) => void>> = {
  copy: (state) => copyNumbers(state, readingsOf(state)),
  csv: (state) => saveFile(`${state.photograph.name} readings.csv`, asCsv(state), 'text/csv'),
  cgats: (state) => saveFile(`${state.photograph.name} readings.txt`, asCgats(state), 'text/plain'),
};

/** How all readings are shown, and what is done with all of them. */
export function ReadingsMenu() {
  const store = useBenchStore();
  const input = useRef<HTMLInputElement>(null);
  const notation = useBench((state) => state.notation);
  const readsBelow = useBench((state) => state.readsBelow);
  const some = useBench((state) => (state.document.readings?.length ?? 0) > 0);
  /** Colours of a list become targets by their names; all of them can be chosen. */
  const take = (text: string, from: string): void => {
    const state = store.getState();
    try {
      const colours = readColours(text);
      state.set({ colourList: colours });
      const count = setTargets(state, colours);
      const named =
        count > 0 ? `; ${count === 1 ? 'one is the target of the reading' : `${count} are the targets of the readings`} of that name` : '';
      state.set({
        notice: `${from}: ${colours.length === 1 ? 'one colour' : `${colours.length} colours`} to choose targets from${named}.`,
      });
    } catch (error) {
      state.set({ notice: `${from} could not be read: ${(error as Error).message}` });
    }
  };
  const act = (key: string): void => {
    const state = store.getState();
    if (NOTATIONS.some(({ id }) => id === key)) state.set({ notation: key as Notation });
    else if (key === 'below') state.set({ readsBelow: !state.readsBelow });
    else if (key === 'import') input.current?.click();
    else if (key === 'device') take(measuredText(), DEVICE);
    else ACTIONS[key]?.(state);
  };
  return (
    <Place>
      {notationOf(notation).name}
      <MenuTrigger>
        <BareButton aria-label="How readings are shown, and more">
          <MoreHorizontal size={13} strokeWidth={1.5} />
        </BareButton>
        <Floating>
          <Menu onAction={(key) => act(String(key))}>
            <MenuSection title="Numbers">
              {NOTATIONS.map(({ id, name, heads }) => (
                <MenuItem key={id} id={id} textValue={name}>
                  {id === notation && <Tick size={11} aria-label="chosen" />}
                  {name} <small>{heads}</small>
                </MenuItem>
              ))}
              <MenuItem id="below">{readsBelow ? 'Not below the layer' : 'Also below the layer'}</MenuItem>
            </MenuSection>
            <MenuSection title="Targets">
              <MenuItem id="import">Colours from a list (CSV, CGATS.17)…</MenuItem>
              <MenuItem id="device">Measure with the {DEVICE.toLowerCase()}</MenuItem>
            </MenuSection>
            {some ? (
              <MenuSection title="All readings">
                <MenuItem id="copy">Copy as text</MenuItem>
                <MenuItem id="csv">Save as CSV</MenuItem>
                <MenuItem id="cgats">Save as CGATS.17</MenuItem>
              </MenuSection>
            ) : null}
          </Menu>
        </Floating>
      </MenuTrigger>
      <FileInput
        input={input}
        label="List of colours"
        accept=".csv,.txt,.cgats,.cie"
        onFile={(file) => void file.text().then((text) => take(text, file.name))}
      />
    </Place>
  );
}
