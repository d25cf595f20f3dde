'use client';
import type { Colour } from '@umbo/core/colour';
import { cssOf } from '@/ui/hexOf';
import { readout, type Readout } from '@umbo/core/measure';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { Fragment, useEffect, useMemo, useRef, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { Num } from '@/ui/controls/Num';
import type { Triple } from '../../workers/protocol';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { Readings } from './Readings';
import { Regions } from './Regions';
import { Section } from '../desk/Section';
import { historyLines } from './historyLines';
import { hueWords } from './hueWords';
import { CameAlong } from './CameAlong';
import { SideList } from './SideList';
import { Spread } from './Spread';
import { Versions } from './Versions';

const Panel = styled.aside`
  position: relative;
  height: 100%;
  display: flex;
  flex-direction: column;
  min-height: 0;
  overflow: hidden;
  border-right: 1px solid var(--line);
`;
const Swatches = styled.div`
  display: flex;
  height: 18px;
  border-radius: 2px;
  overflow: hidden;
  margin-bottom: 5px;
  background: var(--well);
  i {
    flex: 1;
  }
`;
const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  line-height: 17px;
  th {
    text-align: left;
    font-weight: 400;
    color: var(--ink2);
    padding: 0;
    width: 34px;
  }
  thead th {
    width: auto;
    font-size: 11px;
  }
  td {
    padding: 0;
    white-space: nowrap;
  }
  td + td {
    padding-left: 7px;
  }
`;
const History = styled(SideList)`
  button {
    display: block;
    width: 100%;
    text-align: left;
    border: 0;
    background: none;
    padding: 4px 14px;
    line-height: 16px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    cursor: default;
  }
  button:hover {
    background: var(--well);
  }
  button:focus-visible {
    outline-offset: -2px;
  }
  button[aria-current='step'] {
    background: var(--ink);
    color: var(--on-ink);
  }
  button[data-undone='true'] {
    color: var(--ink2);
    font-style: italic;
  }
  li {
    position: relative;
  }
  ol {
    margin: 0;
    padding: 0 0 0 12px;
    list-style: none;
  }
`;
const Opener = styled.button`
  && {
    position: absolute;
    right: 0;
    top: 0;
    width: 26px;
    height: 24px;
    padding: 0;
    display: grid;
    place-items: center;
    z-index: 1;
    color: var(--ink2);
  }
  + button {
    padding-right: 28px;
  }
  &:has(+ [aria-current='step']) {
    color: var(--on-ink);
  }
`;
const Line = styled(AriaButton)`
  flex: none;
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  width: 100%;
  min-height: 32px;
  padding: 4px 10px 4px 14px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: left;
  cursor: default;
  b {
    font-weight: 650;
    white-space: nowrap;
  }
  span {
    color: var(--ink2);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  &[data-hovered] {
    background: var(--well);
  }
  &[data-focus-visible] {
    outline-offset: -2px;
  }
  &[aria-expanded='true'] {
    border-bottom: 0;
  }
`;
const Open = styled.section`
  flex: 1 1 122px;
  min-height: 0;
  display: flex;
  flex-direction: column;
  padding: 0 14px 10px;
  border-bottom: 1px solid var(--line);
  overflow-y: auto;
  scrollbar-width: thin;
`;

const pad = (v: number, width: number, digits = 0): string => v.toFixed(digits).padStart(width, ' ');
const lines = ({ rgb, hsl, lch }: Readout): [string, string, string] => [
  rgb.map((v) => pad(v, 3)).join(' '),
  `${pad(hsl.h, 3)}°${pad(hsl.s * 100, 4)}${pad(hsl.l * 100, 4)}`,
  `${pad(lch.l, 3)}${pad(lch.c, 4)}${pad(lch.h, 4)}°`,
];

/** What is under the pointer, what is in the photograph, and what was done to it. */
export function Side() {
  const hasCome = useBench((state) => state.carried !== null);
  return (
    <Panel aria-label="Readings and history">
      <UnderThePointer />
      <Readings />
      {hasCome && <CameAlong />}
      <Lists />
    </Panel>
  );
}

function UnderThePointer() {
  const space = useSpace();
  const probe = useBench((state) => state.probe);
  const before = probe ? lines(readout(space, probe.before)) : null;
  const after = probe ? lines(readout(space, probe.after)) : null;
  const css = (triple: Triple): string => cssOf(triple.map((v) => v / 255) as Colour, space);
  return (
    <Section title="Pointer" note={probe ? <Num>{`${Math.floor(probe.x)}, ${Math.floor(probe.y)}`}</Num> : undefined}>
      <Swatches aria-hidden>
        <i style={probe ? { background: css(probe.before) } : {}} />
        <i style={probe ? { background: css(probe.after) } : {}} />
      </Swatches>
      {before && after ? (
        <Table data-testid="readout">
          <thead>
            <tr>
              <th />
              <th>before</th>
              <th>after</th>
            </tr>
          </thead>
          <tbody>
            {['RGB', 'HSL', 'LCh'].map((name, i) => (
              <tr key={name}>
                <th scope="row">{name}</th>
                {[before[i]!, after[i]!].map((text, k) => (
                  <td key={k}>
                    <Num style={{ whiteSpace: 'pre', fontSize: 10.5 }}>{text}</Num>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      ) : (
        <p style={{ color: 'var(--ink2)' }}>Move over the photograph to read its colours.</p>
      )}
      {probe?.mask !== null && probe && <p style={{ color: 'var(--ink2)', marginTop: 3 }}>Mask here {Math.round(probe.mask! * 100)} %</p>}
    </Section>
  );
}

const LISTS = [
  { id: 'regions', title: 'Regions', Summary: RegionCount, Shown: Regions },
  { id: 'history', title: 'History', Summary: Steps, Shown: Past },
  { id: 'versions', title: 'Versions', Summary: VersionCount, Shown: Versions },
  { id: 'spread', title: 'Hues', Summary: Most, Shown: Spread },
] as const;

/** Lines with a summary each; the one in use has the room. */
function Lists() {
  const store = useBenchStore();
  const listed = useBench((state) => state.listed);
  return LISTS.map(({ id, title, Summary, Shown }) => (
    <Fragment key={id}>
      <Line aria-label={title} aria-expanded={listed === id} onPress={() => store.getState().set({ listed: id })}>
        <b>{title}</b>
        <span>
          <Summary />
        </span>
      </Line>
      {listed === id && (
        <Open aria-label={title}>
          <Shown />
        </Open>
      )}
    </Fragment>
  ));
}

function VersionCount() {
  const count = useBench((state) => state.versions.length);
  return count === 0 ? 'keep one' : String(count);
}

/** The hues that there are most of, in words. */
function Most() {
  return useBench(({ census }) => (census ? hueWords(census) : ''));
}

function RegionCount() {
  const count = useBench((state) => state.document.regions?.length ?? 0);
  return count === 0 ? 'none yet' : String(count);
}

function Steps() {
  const { labels, position } = useBench((state) => state.history);
  return labels.length === 0 ? 'nothing done yet' : `${position} of ${labels.length}`;
}

function Past() {
  const store = useBenchStore();
  const { labels, position } = useBench((state) => state.history);
  const lines = useMemo(() => historyLines(labels, position), [labels, position]);
  const [opened, setOpened] = useState<ReadonlySet<number>>(new Set());
  const current = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    current.current?.scrollIntoView({ block: 'nearest' });
  }, [position]);
  const step = (at: number, text: string, isCurrent = at === position) => (
    <button
      ref={isCurrent ? current : null}
      aria-current={isCurrent ? 'step' : undefined}
      data-undone={at > position}
      title={text}
      onClick={() => void store.getState().go(at)}
    >
      {text}
    </button>
  );
  const toggle = (from: number): void => {
    const next = new Set(opened);
    if (!next.delete(from)) next.add(from);
    setOpened(next);
  };
  return (
    <History as="ol" aria-label="History">
      <li>{step(0, 'Photograph as it came')}</li>
      {lines.map(({ text, steps, from, to }) => (
        <li key={from}>
          {steps.length > 1 && (
            <Opener aria-label={`Steps of ${text}`} aria-expanded={opened.has(from)} onClick={() => toggle(from)}>
              {opened.has(from) ? <ChevronDown size={11} aria-hidden /> : <ChevronRight size={11} aria-hidden />}
            </Opener>
          )}
          {/* Within a run that is closed, the run is where one is. */}
          {step(to, text, opened.has(from) ? to === position : position > from && position <= to)}
          {opened.has(from) && (
            <ol>
              {steps.slice(0, -1).map((one, i) => (
                <li key={i}>{step(from + i + 1, one)}</li>
              ))}
            </ol>
          )}
        </li>
      ))}
    </History>
  );
}
