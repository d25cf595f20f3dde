'use client';
import type { Size } from '@umbo/core/base';
import { ROLES, type Role } from '@umbo/core/document';
import type { PhotographSummary } from '@umbo/data';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import styled from 'styled-components';
import { Choice } from '@/ui/controls/Choice';
import { Button, LinkButton } from '@/ui/controls/Button';
import { Select } from '@/ui/controls/Select';
import { Header } from '@/ui/Header';
import { Message } from '@/ui/Message';
import type { Other } from '../../workers/protocol';
import type { Anchor } from '../../workers/surveyProtocol';
import { cellOf, FITTED, gridFor, ZOOMS, type SurveyView } from './place';
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
const placeKey = (shootId: number): string => `umbo-survey-${shootId}`;

function keptPlace(shootId: number): SurveyView {
  try {
    const { zoom, x, y } = JSON.parse(sessionStorage.getItem(placeKey(shootId)) ?? '') as SurveyView;
    return [zoom, x, y].every(Number.isFinite) ? { zoom, x, y } : FITTED;
  } catch {
    return FITTED;
  }
}

/** Several photographs beside each other, all at the same place. */
export function Survey({ shoot, of }: Props) {
  const router = useRouter();
  const photographs = useMemo(() => of.flatMap((id) => shoot.photographs.find((one) => one.id === id) ?? []), [of, shoot.photographs]);
  const [sizes, setSizes] = useState<ReadonlyMap<number, Size>>(new Map());
  const chosen = useMemo(() => photographs.map((one) => ({ ...one, ...sizes.get(one.id) })), [photographs, sizes]);
  const [view, setView] = useState(FITTED);
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
  useEffect(() => setView(keptPlace(shoot.id)), [shoot.id]);
  useEffect(() => grid.current!.focus(), []);

  const { roles, problem, find } = usePainter({ grid, chosen: photographs, shoot, cells, side, onAnchors: setAnchors, onSizes: setSizes });
  useEffect(() => sessionStorage.setItem(placeKey(shoot.id), JSON.stringify(view)), [shoot.id, view]);

  const link = (next: string): void => {
    setBy(next);
    // The keys are the pictures' again, after the list that closes has given the focus back.
    setTimeout(() => grid.current?.focus(), FOCUS_AFTER_MS);
    if (next === BY_PLACE) setAnchors(new Map());
    else find(next as Role);
  };
  const zoomBy = (factor: number, at?: { id: number; x: number; y: number }): void =>
    setView((before) => {
      const zoom = Math.min(ZOOMS[1], Math.max(ZOOMS[0], before.zoom * factor));
      const cell = at && cells.find(({ id }) => id === at.id);
      const photograph = at && chosen.find(({ id }) => id === at.id);
      if (!cell || !photograph) return zoom === 1 ? FITTED : { ...before, zoom };
      // What is under the pointer stays there.
      const step = 1 / cell.scale - before.zoom / zoom / cell.scale;
      const [dx, dy] = [at.x - cell.area.width / 2, at.y - cell.area.height / 2];
      return zoom === 1 ? FITTED : { zoom, x: before.x + (dx * step) / photograph.width, y: before.y + (dy * step) / photograph.height };
    });
  const panBy = (dx: number, dy: number): void =>
    setView((before) => {
      const [cell, photograph] = [cells[0], chosen[0]];
      if (!cell || !photograph) return before;
      const held = (v: number): number => Math.min(0.5, Math.max(-0.5, v));
      return { ...before, x: held(before.x - dx / cell.scale / photograph.width), y: held(before.y - dy / cell.scale / photograph.height) };
    });
  /** One pixel of the photograph on one of the screen. */
  const full = (): void => {
    const cell = cells.find(({ id }) => id === here) ?? cells[0];
    if (cell) zoomBy(1 / cell.scale);
  };
  const open = (id: number): void => router.push(`/photographs/${id}`);

  const drag = useRef<{ x: number; y: number } | null>(null);
  const idAt = (target: EventTarget): number | null =>
    Number((target as HTMLElement).closest<HTMLElement>('[data-cell]')?.dataset.cell) || null;
  const pointer = {
    onPointerDown(event: PointerEvent<HTMLElement>) {
      if (event.button !== 0) return;
      drag.current = { x: event.clientX, y: event.clientY };
    },
    onPointerMove(event: PointerEvent<HTMLElement>) {
      if (!drag.current) return setHere(idAt(event.target));
      // Not before it moves: a press that is held back from the picture is no double click on it.
      event.currentTarget.setPointerCapture(event.pointerId);
      panBy((event.clientX - drag.current.x) * devicePixelRatio, (event.clientY - drag.current.y) * devicePixelRatio);
      drag.current = { x: event.clientX, y: event.clientY };
    },
    onPointerUp: () => (drag.current = null),
    onPointerCancel: () => (drag.current = null),
    onPointerLeave: () => setHere(null),
  };
  // React listens to the wheel without being able to keep the page from scrolling or zooming.
  const onWheel = useRef<(event: WheelEvent) => void>(() => undefined);
  useLayoutEffect(() => {
    onWheel.current = (event) => {
      event.preventDefault();
      const id = idAt(event.target!);
      const box = (event.target as HTMLElement).closest('[data-cell]')?.getBoundingClientRect();
      const at =
        id && box ? { id, x: (event.clientX - box.x) * devicePixelRatio, y: (event.clientY - box.y) * devicePixelRatio } : undefined;
      zoomBy(2 ** (-event.deltaY / 240), at);
    };
  });
  useEffect(() => {
    const element = grid.current!;
    const listen = (event: WheelEvent): void => onWheel.current(event);
    element.addEventListener('wheel', listen, { passive: false });
    return () => element.removeEventListener('wheel', listen);
  }, []);

  const step = 60;
  const KEYS: Record<string, () => void> = {
    // As on the bench.
    q: () => setSide(side === 'before' ? 'after' : 'before'),
    g: full,
    '+': () => zoomBy(1.5),
    '-': () => zoomBy(1 / 1.5),
    f: () => setView(FITTED),
    ArrowLeft: () => panBy(step, 0),
    ArrowRight: () => panBy(-step, 0),
    ArrowUp: () => panBy(0, step),
    ArrowDown: () => panBy(0, -step),
    Enter: () => here !== null && open(here),
    Escape: () => router.push(`/shoots/${shoot.id}`),
  };
  const onKeyDown = (event: KeyboardEvent<HTMLElement>): void => {
    const act = KEYS[event.key];
    if (!act || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    act();
  };
  const names = new Map<string, string>(ROLES);
  return (
    <Page>
      <Header
        crumbs={[
          ['Shoots', '/'],
          [shoot.name, `/shoots/${shoot.id}`],
          ['Survey', `/shoots/${shoot.id}/survey`],
        ]}
      >
        {roles.length > 0 && (
          <Select
            label="Linked by"
            value={by}
            options={[[BY_PLACE, 'place'], ...roles.map((role): [string, string] => [role, (names.get(role) ?? role).toLowerCase()])]}
            onChange={link}
          />
        )}
        <Choice label="Which side" value={side} options={SIDES} onChange={setSide} />
        <Button onPress={() => setView(FITTED)}>Fit</Button>
        <Button onPress={full}>100 %</Button>
        <LinkButton as={Link} href={`/shoots/${shoot.id}`}>
          Contact sheet
        </LinkButton>
      </Header>
      {problem && <p role="alert">{problem}</p>}
      {chosen.length === 0 && (
        <Message title="Nothing to look at">
          <p>Choose two to twelve photographs on the contact sheet, then “Survey” below them.</p>
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
