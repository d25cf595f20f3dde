'use client';
import { readout, type Readout } from '@umbo/core';
import { useEffect, useRef } from 'react';
import styled from 'styled-components';
import { Num } from '@/ui/controls';
import type { Triple } from '../workers/protocol';
import { useBench, useBenchStore } from './context';
import { CensusBars, CENSUS_START, HUE_NAMES } from './HueRangeEditor';
import { Section } from './Section';

const Panel = styled.aside`
  display: flex;
  flex-direction: column;
  min-height: 0;
  overflow: hidden;
  border-right: 1px solid var(--line);
`;
const Swatches = styled.div`
  display: flex;
  height: 34px;
  border-radius: 2px;
  overflow: hidden;
  margin-bottom: 6px;
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
`;
const History = styled.ol`
  list-style: none;
  margin: 0 -14px -12px;
  padding: 0;
  overflow: auto;
  flex: 1;
  min-height: 0;
  border-top: 1px solid var(--line);
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
`;
const HistoryBox = styled.div`
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
  > section {
    flex: 1;
    min-height: 0;
    display: flex;
    flex-direction: column;
  }
`;

const pad = (v: number, width: number, digits = 0): string => v.toFixed(digits).padStart(width, ' ');
const lines = ({ rgb, hsl, lch }: Readout): [string, string, string] => [
  rgb.map((v) => pad(v, 3)).join(' '),
  `${pad(hsl.h, 3)}°${pad(hsl.s * 100, 4)}${pad(hsl.l * 100, 4)}`,
  `${pad(lch.l, 3)}${pad(lch.c, 4)}${pad(lch.h, 4)}°`,
];

/** What is under the pointer, what is in the photograph, and what was done to it. */
export function Side() {
  return (
    <Panel aria-label="Readings and history">
      <UnderThePointer />
      <Census />
      <Past />
    </Panel>
  );
}

function UnderThePointer() {
  const probe = useBench((state) => state.probe);
  const before = probe ? lines(readout(probe.before)) : null;
  const after = probe ? lines(readout(probe.after)) : null;
  const css = (triple: Triple): string => `rgb(${triple.join(' ')})`;
  return (
    <Section title="Under the pointer" note={probe ? <Num>{`${Math.floor(probe.x)}, ${Math.floor(probe.y)}`}</Num> : undefined}>
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

function Census() {
  const census = useBench((state) => state.census);
  const width = 200;
  return (
    <Section title="Hue census" note="whole photograph">
      <svg
        viewBox={`0 0 ${width} 62`}
        style={{ display: 'block', width: '100%' }}
        role="img"
        aria-label="Which hues the photograph contains, by amount"
      >
        {census && <CensusBars bins={census} width={width} base={48} top={4} />}
        <line x1={0} x2={width} y1={48} y2={48} stroke="var(--ink)" />
        {HUE_NAMES.map(([name, hue]) => (
          <text
            key={name}
            x={Math.max(6, (((hue - CENSUS_START + 360) % 360) / 360) * width)}
            y={59}
            textAnchor="middle"
            fontSize={9.5}
            fill="var(--ink2)"
          >
            {name.slice(0, 2)}
          </text>
        ))}
      </svg>
    </Section>
  );
}

function Past() {
  const store = useBenchStore();
  const { labels, position } = useBench((state) => state.history);
  const current = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    current.current?.scrollIntoView({ block: 'nearest' });
  }, [position]);
  return (
    <HistoryBox>
      <Section title="History" note={labels.length === 0 ? 'nothing done yet' : `${position} of ${labels.length}`}>
        <History>
          {['Photograph as it came', ...labels].map((label, i) => (
            <li key={i}>
              <button
                ref={i === position ? current : null}
                aria-current={i === position ? 'step' : undefined}
                data-undone={i > position}
                title={label}
                onClick={() => void store.getState().go(i)}
              >
                {label}
              </button>
            </li>
          ))}
        </History>
      </Section>
    </HistoryBox>
  );
}
