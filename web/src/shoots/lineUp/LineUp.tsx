'use client';
import type { Size } from '@umbo/core/base';
import { ROLES, type Role } from '@umbo/core/document';
import type { PhotographSummary } from '@umbo/data';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import styled from 'styled-components';
import { Choice } from '@/ui/controls/Choice';
import { Button, LinkButton } from '@/ui/controls/Button';
import { Select } from '@/ui/controls/Select';
import { Header } from '@/ui/Header';
import { Message } from '@/ui/Message';
import type { Other } from '../../workers/protocol';
import type { Anchor } from '../../workers/lineUpProtocol';
import { cellOf, FITTED, gridFor } from './place';
import { useLineUpPointer } from './useLineUpPointer';
import { panned, useLineUpView, zoomed, type CellPlace } from './useLineUpView';
import { usePainter, type SideShown } from './usePainter';

const Page = styled.div`
  height: 100vh;
  display: flex;
  flex-direction: column;
`;
const Grid = styled.main`
  flex: 1;
  min-height: 0;
  display: grid;
  gap: 6px;
  padding: 6px;
  background: var(--stage);
  color: #fff;
  touch-action: none;
  user-select: none;
  outline: none;
`;
const Cell = styled.figure`
  position: relative;
  margin: 0;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
  figcaption {
    position: absolute;
    left: 6px;
    bottom: 6px;
    max-width: calc(100% - 12px);
    padding: 1px 7px;
    background: #191919cc;
    border-radius: var(--radius);
    font-size: 11px;
    line-height: 16px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  &[data-here] {
    outline: 2px solid #fff;
  }
`;

const SIDES = [
  ['after', 'After'],
  ['before', 'Before'],
] as const;

interface Props {
  shoot: { id: number; name: string; photographs: PhotographSummary[]; masks: Other[] };
  /** Those that are looked at, in their order. */
  of: readonly number[];
}

const BY_PLACE = 'place';
const FOCUS_AFTER_MS = 60;
/** Pixels of the screen that an arrow key moves. */
const STEP = 60;

const onKeys =
  (keys: Readonly<Record<string, () => void>>) =>
  (event: KeyboardEvent<HTMLElement>): void => {
    const act = keys[event.key];
    if (!act || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    act();
  };

/** Several photographs beside each other, all at the same place. */
export function LineUp({ shoot, of }: Props) {
  const router = useRouter();
  const photographs = useMemo(() => of.flatMap((id) => shoot.photographs.find((one) => one.id === id) ?? []), [of, shoot.photographs]);
  const [sizes, setSizes] = useState<ReadonlyMap<number, Size>>(new Map());
  const chosen = useMemo(() => photographs.map((one) => ({ ...one, ...sizes.get(one.id) })), [photographs, sizes]);
  const [view, setView] = useLineUpView(shoot.id);
  const [side, setSide] = useState<SideShown>('after');
  const [by, setBy] = useState<string>(BY_PLACE);
  const [anchors, setAnchors] = useState<ReadonlyMap<number, Anchor>>(new Map());
  const [here, setHere] = useState<number | null>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const grid = useRef<HTMLElement>(null);

  const ratio = chosen.length === 0 ? 1 : chosen.reduce((sum, p) => sum + p.width / p.height, 0) / chosen.length;
  const { columns, rows } = gridFor(chosen.length, size, ratio);
  const cells = useMemo(() => {
    const dpr = typeof devicePixelRatio === 'number' ? devicePixelRatio : 1;
    const cell = {
      width: Math.max(1, Math.floor(((size.width - 12 - 6 * (columns - 1)) / columns) * dpr)),
      height: Math.max(1, Math.floor(((size.height - 12 - 6 * (rows - 1)) / rows) * dpr)),
    };
    return chosen.map((photograph) => cellOf(photograph, cell, view, anchors));
  }, [chosen, size, columns, rows, view, anchors]);

  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setSize({ width: entry!.target.clientWidth, height: entry!.target.clientHeight }));
    observer.observe(grid.current!);
    return () => observer.disconnect();
  }, []);
  useEffect(() => grid.current!.focus(), []);

  const { roles, problem, find } = usePainter({ grid, chosen: photographs, shoot, cells, side, onAnchors: setAnchors, onSizes: setSizes });

  const link = (next: string): void => {
    setBy(next);
    // The keys are the pictures' again, after the list that closes has given the focus back.
    setTimeout(() => grid.current?.focus(), FOCUS_AFTER_MS);
    if (next === BY_PLACE) setAnchors(new Map());
    else find(next as Role);
  };
  const zoomBy = (factor: number, at?: CellPlace): void => setView((before) => zoomed(before, factor, chosen, cells, at));
  const panBy = (dx: number, dy: number): void => setView((before) => panned(before, dx, dy, chosen, cells));
  /** One pixel of the photograph on one of the screen. */
  const full = (): void => {
    const cell = cells.find(({ id }) => id === here) ?? cells[0];
    if (cell) zoomBy(1 / cell.scale);
  };
  const open = (id: number): void => router.push(`/photographs/${id}`);

  const pointer = useLineUpPointer(grid, { panBy, zoomBy, onHere: setHere });
  const onKeyDown = onKeys({
    // As on the bench.
    q: () => setSide(side === 'before' ? 'after' : 'before'),
    g: full,
    '+': () => zoomBy(1.5),
    '-': () => zoomBy(1 / 1.5),
    f: () => setView(FITTED),
    ArrowLeft: () => panBy(STEP, 0),
    ArrowRight: () => panBy(-STEP, 0),
    ArrowUp: () => panBy(0, STEP),
    ArrowDown: () => panBy(0, -STEP),
    Enter: () => here !== null && open(here),
    Escape: () => router.push(`/shoots/${shoot.id}`),
  });
  return (
    <Page>
      <LineUpHeader {...{ shoot, roles, by, side }} onLink={link} onSide={setSide} onFit={() => setView(FITTED)} onFull={full} />
      {problem && <p role="alert">{problem}</p>}
      {chosen.length === 0 && (
        <Message title="Nothing to look at">
          <p>Choose two to twelve photographs on the contact sheet, then “Line-up” below them.</p>
        </Message>
      )}
      <Grid
        ref={grid}
        tabIndex={0}
        aria-label="Photographs beside each other"
        style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`, gridTemplateRows: `repeat(${rows}, minmax(0, 1fr))` }}
        onKeyDown={onKeyDown}
        {...pointer}
      >
        {chosen.map((p) => (
          <Cell key={p.id} data-cell={p.id} data-here={here === p.id || undefined} onDoubleClick={() => open(p.id)}>
            <canvas data-of={p.id} role="img" aria-label={p.name} />
            <figcaption>
              {p.name} · {p.state}
            </figcaption>
          </Cell>
        ))}
      </Grid>
    </Page>
  );
}

interface HeaderProps {
  shoot: { id: number; name: string };
  /** Regions that all photographs have. */
  roles: readonly Role[];
  by: string;
  onLink: (by: string) => void;
  side: SideShown;
  onSide: (side: SideShown) => void;
  onFit: () => void;
  onFull: () => void;
}

const NAMES = new Map<string, string>(ROLES);

function LineUpHeader({ shoot, roles, by, onLink, side, onSide, onFit, onFull }: HeaderProps) {
  return (
    <Header
      crumbs={[
        ['Shoots', '/'],
        [shoot.name, `/shoots/${shoot.id}`],
        ['Line-up', `/shoots/${shoot.id}/line-up`],
      ]}
    >
      {roles.length > 0 && (
        <Select
          label="Linked by"
          value={by}
          options={[[BY_PLACE, 'place'], ...roles.map((role): [string, string] => [role, (NAMES.get(role) ?? role).toLowerCase()])]}
          onChange={onLink}
        />
      )}
      <Choice label="Which side" value={side} options={SIDES} onChange={onSide} />
      <Button onPress={onFit}>Fit</Button>
      <Button onPress={onFull}>100 %</Button>
      <LinkButton as={Link} href={`/shoots/${shoot.id}`}>
        Contact sheet
      </LinkButton>
    </Header>
  );
}
