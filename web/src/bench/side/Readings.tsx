'use client';
import { differenceWords } from '@umbo/core/measure';
import { deltaE2000, spaces } from '@umbo/core/colour';
import { findLayer, plainName, targetReading, type Reading } from '@umbo/core/document';
import { Lock, MoreHorizontal } from 'lucide-react';
import { useEffect, useRef, useState, type CSSProperties } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { useShallow } from 'zustand/react/shallow';
import { BareButton, Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuLine } from '@/ui/controls/Menu';
import { Num } from '@/ui/controls/Num';
import { cssOf } from '@/ui/hexOf';
import { Letter } from '../desk/Letter';
import { Section } from '../desk/Section';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { colourOf, labOf, removeReading, shownColour, targetOf, toleranceOf, type Side } from '../state/readings';
import { rememberReadings } from '../state/otherReadings';
import { stopSolving } from '../state/solving';
import { notationOf } from './notations';
import { copyNumbers } from './readingFiles';
import { ReadingsMenu } from './ReadingsMenu';

/** Gives way to what is below it: its list scrolls. */
const Box = styled.div`
  flex: 0 1 auto;
  min-height: var(--least);
  display: flex;
  flex-direction: column;
  border-bottom: 1px solid var(--line);
  > section {
    min-height: 0;
    display: flex;
    flex-direction: column;
  }
`;
const List = styled.ul`
  list-style: none;
  margin: 4px -14px -12px;
  padding: 0;
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
  border-top: 1px solid var(--line);
  li {
    position: relative;
    padding: 5px 6px 5px 14px;
    border-bottom: 1px solid var(--line);
  }
  li:last-child {
    border-bottom: 0;
  }
  li[data-lit='true'] {
    background: var(--well);
  }
  li[data-open='true'] {
    background: var(--raised);
  }
`;
const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  > button:first-child {
    flex: 1;
    min-width: 0;
    display: flex;
    align-items: center;
    gap: 7px;
    padding: 0;
    border: 0;
    background: none;
    text-align: left;
    cursor: default;
  }
  b {
    flex: 1;
    font-weight: 400;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
const Off = styled(Num)`
  flex: none;
  padding: 0 4px;
  border-radius: 2px;
  font-size: 10.5px;
  border: 1px solid var(--edge);
  &[data-passes='true'] {
    background: var(--ink);
    color: var(--on-ink);
    border-color: var(--ink);
  }
`;
const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 7px;
  height: 15px;
  color: var(--ink2);
  font-size: 11px;
  > span:first-child {
    flex: none;
    width: 36px;
  }
  > i {
    flex: none;
    width: 17px;
    height: 11px;
    border-radius: 1px;
  }
`;
const Words = styled.p`
  margin: 1px 0 0;
  color: var(--ink2);
  font-size: 11px;
  line-height: 14px;
`;
const Waiting = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin-top: 4px;
`;
const NONE: readonly Reading[] = [];

/** The pinned readings: what each was and is, and how far from its target. */
export function Readings() {
  const store = useBenchStore();
  const readings = useBench((state) => state.document.readings ?? NONE);
  const isReading = useBench((state) => state.tool === 'read');
  const solving = useBench((state) => state.solving);
  const measured = useBench((state) => state.readings);
  useEffect(() => {
    // Not what is only painted while something moves.
    if (measured.size > 0 && [...measured.values()].every(({ glimpse }) => glimpse === null)) rememberReadings(store.getState());
  }, [store, measured]);
  if (readings.length === 0 && !isReading) return null;
  return (
    <Box style={{ '--least': `${Math.min(118, 40 + 62 * readings.length)}px` } as CSSProperties}>
      <Section title="Readings" note={<ReadingsMenu />}>
        {readings.length === 0 && <p style={{ color: 'var(--ink2)' }}>Click on the photograph to pin a reading; drag for an area.</p>}
        {solving !== null && (
          <Waiting role="status">
            {solving} <Button onPress={() => stopSolving(store.getState())}>Stop</Button>
          </Waiting>
        )}
        {readings.length > 0 && (
          <List aria-label="Readings">
            {readings.map((reading) => (
              <ReadingLine key={reading.id} reading={reading} />
            ))}
          </List>
        )}
      </Section>
    </Box>
  );
}

const NAMES: Record<Side, string> = { before: 'before', below: 'below', after: 'after' };

function ReadingLine({ reading }: { reading: Reading }) {
  const { id, letter, name, target, hold } = reading;
  const store = useBenchStore();
  const line = useRef<HTMLLIElement>(null);
  const [menu, setMenu] = useState(false);
  const isOpen = useBench((state) => state.readingId === id);
  const isLit = useBench((state) => state.litReading === id);
  const below = useBench((state) => state.readsBelow && findLayer(state.document, state.layerId) !== undefined);
  useEffect(() => {
    // Not scrollIntoView: that would move the panel around the list as well.
    const [item, list] = [line.current, line.current?.parentElement];
    if (!(isLit || isOpen) || !item || !list) return;
    const top = item.offsetTop - list.offsetTop;
    if (top < list.scrollTop) list.scrollTop = top;
    else if (top + item.offsetHeight > list.scrollTop + list.clientHeight) list.scrollTop = top + item.offsetHeight - list.clientHeight;
  }, [isLit, isOpen]);
  const light = (on: boolean): void => store.getState().lightReading(on ? id : null);
  const open = (): void => store.getState().openReading(isOpen ? null : id);
  const act = (key: string): void => {
    const state = store.getState();
    if (key === 'open') open();
    else if (key === 'copy') copyNumbers(state, [reading]);
    else removeReading(state, reading);
  };
  const shown = name === plainName(letter) ? '' : name;
  return (
    <li
      ref={line}
      aria-label={name}
      data-lit={isLit}
      data-open={isOpen}
      onPointerEnter={() => light(true)}
      onPointerLeave={() => light(false)}
      onContextMenu={(event) => {
        if (event.target instanceof HTMLInputElement) return;
        event.preventDefault();
        setMenu(true);
      }}
    >
      <Head>
        <button aria-expanded={isOpen} aria-label={name} onClick={open}>
          <Letter aria-hidden>{letter}</Letter>
          <b title={name}>{shown}</b>
        </button>
        {hold && <Lock size={11} strokeWidth={1.75} aria-label="held" />}
        {target && <Distance reading={reading} />}
        <MenuTrigger isOpen={menu} onOpenChange={setMenu}>
          <BareButton aria-label={`More about reading ${letter}`}>
            <MoreHorizontal size={13} strokeWidth={1.5} />
          </BareButton>
          <Floating>
            <Menu onAction={(key) => act(String(key))}>
              <MenuItem id="open">{isOpen ? 'Close' : 'Target, match, numbers'}</MenuItem>
              <MenuItem id="copy">Copy its numbers</MenuItem>
              <MenuLine />
              <MenuItem id="remove">Remove</MenuItem>
            </Menu>
          </Floating>
        </MenuTrigger>
      </Head>
      {(below ? (['before', 'below', 'after'] as const) : (['before', 'after'] as const)).map((side) => (
        <Numbers key={side} id={id} side={side} />
      ))}
      {target && <Difference reading={reading} />}
    </li>
  );
}

function Numbers({ id, side }: { id: string; side: Side }) {
  const colour = useBench(useShallow((state) => colourOf(state, id, side)));
  const notation = useBench((state) => state.notation);
  const space = useSpace();
  return (
    <Line>
      <span>{NAMES[side]}</span>
      <i style={colour ? { background: cssOf(colour, space) } : { background: 'var(--well)' }} />
      <Num style={{ whiteSpace: 'pre', fontSize: 10.5 }}>{colour ? notationOf(notation).write(space, colour) : '…'}</Num>
    </Line>
  );
}

/** How far it is from its target, as a number: filled where that is within the tolerance. */
function Distance({ reading }: { reading: Reading }) {
  const off = useBench((state) => {
    const [to, is] = [targetOf(state, reading), labOf(state, reading.id, 'after')];
    return to && is ? deltaE2000(to, is).toFixed(1) : null;
  });
  const passes = off !== null && Number(off) <= toleranceOf(reading);
  return (
    <Off
      data-passes={passes}
      title={`ΔE00 to its target; ${passes ? 'within' : 'beyond'} the tolerance of ${toleranceOf(reading)}`}
      aria-label={off === null ? 'not known yet' : `ΔE ${off}, ${passes ? 'passes' : 'fails'}`}
    >
      {off ?? '…'}
    </Off>
  );
}

function Difference({ reading }: { reading: Reading }) {
  const words = useBench((state) => {
    const [to, is] = [targetOf(state, reading), labOf(state, reading.id, 'after')];
    return to && is ? differenceWords(to, is) : '';
  });
  const swatch = useBench((state) => {
    const to = targetOf(state, reading);
    return to && cssOf(shownColour(state, to), spaces[state.committed.workingSpace]);
  });
  const name = useBench(({ document }) => {
    const { target } = reading;
    if (target?.kind === 'reading') return targetReading(document.readings ?? [], reading)?.letter ?? 'gone';
    return target?.kind === 'neutral' ? 'grey' : (target?.name ?? 'colour');
  });
  return (
    <>
      <Line>
        <span>target</span>
        <i style={{ background: swatch ?? 'var(--well)' }} />
        <span title={name} style={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {name}
        </span>
      </Line>
      <Words>{words}</Words>
    </>
  );
}
