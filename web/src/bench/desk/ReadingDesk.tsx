'use client';
import { percent } from '@umbo/core/base';
import { deltaE2000, rgbToLab } from '@umbo/core/colour';
import { findLayer, plainName, type Reading, type ReadingTarget } from '@umbo/core/document';
import { differenceWords, type AreaValues } from '@umbo/core/measure';
import { X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { BareButton, Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { Num } from '@/ui/controls/Num';
import { NumberText } from '@/ui/controls/NumberText';
import { numberRange } from '@/ui/controls/numberRange';
import { Select } from '@/ui/controls/Select';
import { Switch } from '@/ui/controls/Switch';
import { TextInput } from '@/ui/controls/TextField';
import { labOfText } from '../colour/colourOfText';
import { usePalettes } from '../colour/usePalettes';
import { cssOf } from '@/ui/hexOf';
import { kindName } from '../state/actions';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { labOf, readingsOf, renameReading, setHold, setTarget, setTolerance, targetOf, toleranceOf } from '../state/readings';
import { Letter } from './Letter';
import { castOf, castWords } from '../state/cast';
import { otherReadings } from '../state/otherReadings';
import { isSolvable, match, MATCHING, NEUTRALISING, opposite, SHARES, type By, type Way } from '../state/solving';

const Box = styled.section`
  flex: none;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  grid-auto-flow: row dense;
  gap: 6px 8px;
  align-items: center;
  padding: 8px 14px;
  border-bottom: 1px solid var(--line);
  background: var(--raised);
  > .whole {
    grid-column: 1 / -1;
  }
  p {
    grid-column: 1 / -1;
    margin: 0;
    color: var(--ink2);
  }
`;
const Head = styled.div`
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 8px;
  input {
    flex: 1;
    min-height: 26px;
  }
`;
const Table = styled.table`
  grid-column: 1 / -1;
  border-collapse: collapse;
  line-height: 17px;
  th {
    padding: 0;
    text-align: left;
    font-weight: 400;
    color: var(--ink2);
  }
  td {
    padding: 0 0 0 10px;
    text-align: right;
    white-space: nowrap;
  }
  thead {
    color: var(--ink2);
  }
  i {
    display: inline-block;
    width: 17px;
    height: 9px;
    margin-left: 3px;
  }
`;

const Tolerance = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  color: var(--ink2);
`;
const TOLERANCES = numberRange({ min: 0.1, max: 20, step: 0.1, unit: '' });

const TYPED = 'typed';
const FOCUS_AFTER_MS = 60;
const KEEPS: ReadonlySet<string> = new Set(['none', 'neutral', TYPED]);

/** The open reading: what it is to become, and by what; and its numbers. */
export function ReadingDesk() {
  const reading = useBench(({ document, readingId }) => document.readings?.find(({ id }) => id === readingId) ?? null);
  return reading && <OpenReading key={reading.id} reading={reading} />;
}

function OpenReading({ reading }: { reading: Reading }) {
  const { letter, name, hold } = reading;
  const store = useBenchStore();
  const named = name === plainName(letter) ? '' : name;
  return (
    <Box aria-label={plainName(letter)}>
      <Head>
        <Letter aria-hidden>{letter}</Letter>
        <TextInput
          key={named}
          aria-label={`Name of ${plainName(letter)}`}
          placeholder={plainName(letter)}
          defaultValue={named}
          onBlur={(event) => renameReading(store.getState(), reading, event.target.value)}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Escape') event.currentTarget.value = named;
            if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
          }}
        />
        <Hint text="Close; the reading stays">
          <BareButton aria-label="Close the reading" onPress={() => store.getState().openReading(null)}>
            <X size={14} strokeWidth={1.5} />
          </BareButton>
        </Hint>
      </Head>
      <TargetChoice reading={reading} />
      {reading.target?.kind === 'reading' && <KeepsLight reading={reading} target={reading.target} />}
      {reading.target ? (
        <Tolerance>
          <span aria-hidden>Tolerance ΔE</span>
          <NumberText
            name={`Tolerance of ${name}`}
            value={toleranceOf(reading)}
            range={TOLERANCES}
            width={44}
            onCommit={(tolerance) => setTolerance(store.getState(), reading, tolerance)}
          />
        </Tolerance>
      ) : (
        <Hint text="It stays as it is while others are matched">
          <Switch value={hold === true} onChange={(on) => setHold(store.getState(), reading, on)}>
            Hold
          </Switch>
        </Hint>
      )}
      <MatchMenus reading={reading} />
      <Words reading={reading} />
      {reading.spot?.side !== 1 && <Numbers id={reading.id} />}
    </Box>
  );
}

/** Whether it becomes like the other one in hue and chroma only. */
function KeepsLight({ reading, target }: { reading: Reading; target: Extract<ReadingTarget, { kind: 'reading' }> }) {
  const store = useBenchStore();
  const set = (on: boolean): void =>
    setTarget(store.getState(), reading, { kind: 'reading', reading: target.reading, ...(on && { keepsLight: true }) });
  return (
    <Switch value={target.keepsLight === true} onChange={set}>
      Light stays
    </Switch>
  );
}

/** A target from other readings, also of other photographs, grey, a typed colour, swatches of the shoot, or a list. */
function TargetChoice({ reading }: { reading: Reading }) {
  const store = useBenchStore();
  const space = useSpace();
  const [typing, setTyping] = useState(false);
  const [wrong, setWrong] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (!typing) return;
    // After the list that closes has given the focus back.
    const timer = setTimeout(() => input.current?.focus(), FOCUS_AFTER_MS);
    return () => clearTimeout(timer);
  }, [typing]);
  const readings = useBench(readingsOf);
  const list = useBench((state) => state.colourList);
  const photograph = useBench((state) => state.photograph.id);
  // Others are seen in other windows and before: they do not change while this one is open.
  const others = useMemo(() => otherReadings(store.getState()), [store, photograph]);
  const shootId = useBench((state) => state.shoot.id);
  const palettes = usePalettes(shootId).list ?? [];
  const { target } = reading;
  const swatches = palettes.flatMap((palette) => palette.swatches.map((swatch) => [`swatch ${swatch.id}`, swatch] as const));
  const options: [string, string][] = [
    ['none', 'No target'],
    ['neutral', 'Grey, as light as it is'],
    ...readings
      .filter(({ id }) => id !== reading.id)
      .map((one): [string, string] => [
        `reading ${one.id}`,
        `As ${one.letter}${one.name === plainName(one.letter) ? '' : `, ${one.name}`}`,
      ]),
    ...others.map((one, i): [string, string] => [`other ${i}`, one.name]),
    ...list.map((one, i): [string, string] => [`list ${i}`, one.name]),
    ...swatches.map(([key, { name }]): [string, string] => [key, name]),
    [TYPED, 'A colour, typed…'],
  ];
  const byName = target?.kind === 'colour' ? options.find(([key, text]) => text === target.name && !KEEPS.has(key))?.[0] : undefined;
  const value = typing
    ? TYPED
    : !target
      ? 'none'
      : target.kind === 'neutral'
        ? 'neutral'
        : target.kind === 'reading'
          ? `reading ${target.reading}`
          : (byName ?? TYPED);
  const choose = (key: string): void => {
    setTyping(key === TYPED);
    if (key === TYPED) return;
    const [kind, which = ''] = key.split(/ (.*)/);
    const swatch = swatches.find(([one]) => one === key)?.[1];
    const next: ReadingTarget | null =
      kind === 'neutral'
        ? { kind: 'neutral' }
        : kind === 'reading'
          ? { kind, reading: which }
          : kind === 'list' || kind === 'other'
            ? { kind: 'colour', ...(kind === 'list' ? list : others)[Number(which)]! }
            : swatch
              ? { kind: 'colour', lab: rgbToLab(space, ...swatch.colour), name: swatch.name }
              : null;
    setTarget(store.getState(), reading, next);
  };
  const type = (text: string): void => {
    if (text.trim() === '') return setTyping(false);
    const lab = labOfText(text);
    setWrong(!lab);
    if (!lab) return;
    setTyping(false);
    setTarget(store.getState(), reading, { kind: 'colour', lab, name: text.trim().slice(0, 120) });
  };
  const typed = target?.kind === 'colour' ? (target.name ?? '') : '';
  return (
    <>
      <Select label={`Target of ${reading.name}`} hideLabel value={value} options={options} onChange={choose} />
      {value === TYPED && (
        <TextInput
          className="whole"
          key={typed}
          ref={input}
          aria-label={`Colour of the target of ${reading.name}`}
          aria-invalid={wrong}
          placeholder="#c08060, lab(60 20 15), lch(…)"
          defaultValue={typed}
          onBlur={(event) => type(event.target.value)}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Enter') event.currentTarget.blur();
            if (event.key === 'Escape') setTyping(false);
          }}
        />
      )}
      {wrong && value === TYPED && <p role="alert">This is no colour: write it as #c08060, lab(60 20 15), lch(60 25 40) or a CSS name.</p>}
    </>
  );
}

/** By what the reading is brought to its target, or to grey; or all that have targets to theirs. */
function MatchMenus({ reading }: { reading: Reading }) {
  const store = useBenchStore();
  const solving = useBench((state) => state.solving !== null);
  const withTarget = useBench((state) => readingsOf(state).filter(({ target }) => target).length);
  const toGrey = new Map([[reading.id, { kind: 'neutral' } as const]]);
  const { getState } = store;
  return (
    <>
      {reading.target && (
        <MenuTrigger>
          <Button isDisabled={solving}>Match by…</Button>
          <Floating>
            <WaysMenu ways={MATCHING} start={(by) => void match(getState, by, [reading.id])} />
          </Floating>
        </MenuTrigger>
      )}
      {reading.target?.kind !== 'neutral' && (
        <MenuTrigger>
          <Button isDisabled={solving}>Neutralise by…</Button>
          <Floating>
            <WaysMenu ways={NEUTRALISING} start={(by) => void match(getState, by, [reading.id], toGrey)} />
          </Floating>
        </MenuTrigger>
      )}
      <MenuTrigger>
        <Button isDisabled={solving}>Opposite…</Button>
        <Floating>
          <Menu onAction={(share) => opposite(getState, reading, Number(share))}>
            <MenuSection title="Takes out, by colour balance">
              {SHARES.map(([share, words]) => (
                <MenuItem key={share} id={String(share)}>
                  {words}
                </MenuItem>
              ))}
            </MenuSection>
          </Menu>
        </Floating>
      </MenuTrigger>
      {withTarget > 1 && (
        <MenuTrigger>
          <Button isDisabled={solving}>Match all {withTarget} by…</Button>
          <Floating>
            <WaysMenu ways={MATCHING} start={(by) => void match(getState, by)} />
          </Floating>
        </MenuTrigger>
      )}
    </>
  );
}

/** The settings of the selected layer, and new layers. */
function WaysMenu({ ways, start }: { ways: readonly Way[]; start: (by: By) => void }) {
  const layer = useBench((state) => findLayer(state.document, state.layerId) ?? null);
  return (
    <Menu onAction={(key) => start(key === 'settings' || key === 'opacity' ? { selected: key } : ways.find(({ id }) => id === key)!)}>
      {layer ? (
        <MenuSection title={`The layer “${layer.name}”`}>
          {isSolvable(layer) ? <MenuItem id="settings">Its {kindName(layer.what).toLowerCase()}</MenuItem> : null}
          <MenuItem id="opacity">Its opacity</MenuItem>
        </MenuSection>
      ) : null}
      <MenuSection title="A new layer">
        {ways.map(({ id, words }) => (
          <MenuItem key={id} id={id}>
            {words}
          </MenuItem>
        ))}
      </MenuSection>
    </Menu>
  );
}

/** How far it is from its target, or from grey. */
function Words({ reading }: { reading: Reading }) {
  const { id } = reading;
  const off = useBench((state) => {
    const [to, is] = [targetOf(state, reading), labOf(state, id, 'after')];
    return to && is ? `${deltaE2000(to, is).toFixed(1)} from its target: ${differenceWords(to, is)}. ` : '';
  });
  const cast = useBench((state) => {
    const found = castOf(state, id);
    return found ? castWords(found) : '';
  });
  const changed = useBench((state) => {
    const [was, is] = [labOf(state, id, 'before'), labOf(state, id, 'after')];
    const by = was && is ? deltaE2000(was, is) : 0;
    return by < 0.05 ? '' : `Changed by ${by.toFixed(1)}. `;
  });
  return <p>{off || cast ? `${changed}${off}${cast}` : 'Reading…'}</p>;
}

/** The numbers of an area. */
function Numbers({ id }: { id: string }) {
  const values = useBench((state) => state.readings.get(id)?.values);
  const space = useSpace();
  const { before, after } = values ?? { before: null, after: null };
  if (!before || !after) return null;
  const row = (title: string, of: (side: AreaValues) => string) => (
    <tr>
      <th scope="row">{title}</th>
      {[before, after].map((side, i) => (
        <td key={i}>
          <Num>{of(side)}</Num>
        </td>
      ))}
    </tr>
  );
  const spread =
    (key: keyof AreaValues['spread'], unit = '') =>
    (side: AreaValues) =>
      `${side.spread[key].toFixed(1)}${unit}`;
  return (
    <Table>
      <thead>
        <tr>
          <th>Spread of</th>
          <td>before</td>
          <td>after</td>
        </tr>
      </thead>
      <tbody>
        {row('L*', spread('lightness'))}
        {row('C*', spread('chroma'))}
        {row('h', spread('hue', '°'))}
        {row('clipped', ({ clipped }) => percent(clipped))}
        <tr>
          <th scope="row">darkest, lightest</th>
          {[before, after].map((side, i) => (
            <td key={i}>
              <i style={{ background: cssOf(side.darkest, space) }} />
              <i style={{ background: cssOf(side.lightest, space) }} />
            </td>
          ))}
        </tr>
      </tbody>
    </Table>
  );
}
