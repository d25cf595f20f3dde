'use client';
import type { Size } from '@umbo/core/base';
import { pictureSizeOf, ROLES, type Role, type UmboDocument } from '@umbo/core/document';
import type { PhotographSummary } from '@umbo/data';
import { useCallback, useEffect, useLayoutEffect, useRef, useState, type RefObject } from 'react';
import { request } from '@/ui/request';
import { othersOf, type Other } from '../../workers/protocol';
import type { Anchor, FromLineUp, LineUpCell, ToLineUp } from '../../workers/lineUpProtocol';

export type SideShown = 'after' | 'before';

interface Painted {
  cell: LineUpCell;
  picture: ImageBitmap;
}

/** Asked for once things have stood still for so long. */
const PAINT_AFTER_MS = 60;

interface Wishes {
  /** Holds a canvas for each photograph, with its id in `data-of`. */
  grid: RefObject<HTMLElement | null>;
  chosen: readonly PhotographSummary[];
  shoot: { photographs: readonly PhotographSummary[]; masks: readonly Other[] };
  cells: readonly LineUpCell[];
  side: SideShown;
  onAnchors: (anchors: ReadonlyMap<number, Anchor>) => void;
  /** How large the pictures of the photographs are, once that is known. */
  onSizes: (sizes: ReadonlyMap<number, Size>) => void;
}

/** Whether a picture was made for what a cell shows now, and is not just moved there. */
const sameCell = ({ scale, area }: LineUpCell, now: LineUpCell): boolean =>
  scale === now.scale && (['x', 'y', 'width', 'height'] as const).every((key) => area[key] === now.area[key]);

/** What is there already, moved to where it belongs now: the sharp picture follows. */
function drawCell(grid: HTMLElement | null, cell: LineUpCell, known: Painted | undefined): void {
  const canvas = grid?.querySelector<HTMLCanvasElement>(`canvas[data-of="${cell.id}"]`);
  const context = canvas?.getContext('2d');
  if (!canvas || !context) return;
  if (canvas.width !== cell.area.width || canvas.height !== cell.area.height)
    Object.assign(canvas, { width: cell.area.width, height: cell.area.height });
  context.clearRect(0, 0, canvas.width, canvas.height);
  canvas.dataset.sharp = String(known !== undefined && sameCell(known.cell, cell));
  if (!known) return;
  const grown = cell.scale / known.cell.scale;
  const [x, y] = [Math.max(0, known.cell.area.x), Math.max(0, known.cell.area.y)];
  context.drawImage(
    known.picture,
    x * grown - cell.area.x,
    y * grown - cell.area.y,
    known.picture.width * grown,
    known.picture.height * grown,
  );
}

/** Paints the cells of a lineUp by a worker. @returns the roles of which all photographs have a region, and what finds where those are */
export function usePainter({ grid, chosen, shoot, cells, side, onAnchors, onSizes }: Wishes): {
  roles: readonly Role[];
  problem: string | null;
  find: (role: Role) => void;
} {
  const [roles, setRoles] = useState<readonly Role[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  /** The worker, once it knows the photographs. */
  const [worker, setWorker] = useState<Worker | null>(null);
  const round = useRef(0);
  const painted = useRef(new Map<number, Painted>());
  const anchorsCame = useRef(onAnchors);
  const sizesCame = useRef(onSizes);
  useLayoutEffect(() => {
    anchorsCame.current = onAnchors;
    sizesCame.current = onSizes;
  });

  const draw = useCallback((cell: LineUpCell) => drawCell(grid.current, cell, painted.current.get(cell.id)), [grid]);
  const now = useRef(cells);
  useLayoutEffect(() => {
    now.current = cells;
    cells.forEach(draw);
  }, [cells, draw]);

  // Everything that is looked at is read once, and painted by a worker of its own.
  useEffect(() => {
    const own = new Worker(new URL('../../workers/lineUp.worker.ts', import.meta.url), { type: 'module' });
    const tell = (message: ToLineUp): void => own.postMessage(message);
    own.onmessage = ({ data }: MessageEvent<FromLineUp>) => {
      if (data.type === 'failed') return setProblem(data.message);
      if (data.type === 'anchors') return anchorsCame.current(new Map(data.anchors));
      if (data.round !== round.current) return data.picture.close();
      painted.current.get(data.cell.id)?.picture.close();
      painted.current.set(data.cell.id, data);
      const cell = now.current.find(({ id }) => id === data.cell.id);
      if (cell) draw(cell);
      const canvas = grid.current?.querySelector<HTMLCanvasElement>(`canvas[data-of="${data.cell.id}"]`);
      if (canvas) canvas.dataset.painted = data.before ? 'before' : 'after';
    };
    let gone = false;
    Promise.all(chosen.map(({ id }) => request<{ edit: { document: UmboDocument } }>('GET', `/api/photographs/${id}`))).then(
      (edits) => {
        if (gone) return;
        const documents = edits.map(({ edit }) => edit.document);
        sizesCame.current(new Map(chosen.map(({ id }, i) => [id, pictureSizeOf(documents[i]!)])));
        setRoles(
          ROLES.map(([role]) => role).filter((role) => documents.every((one) => one.regions?.some((region) => region.role === role))),
        );
        const others = othersOf(shoot);
        tell({
          type: 'open',
          photographs: chosen.map((one, i) => ({ ...others.find(({ id, isMask }) => !isMask && id === one.id)!, document: documents[i]! })),
          others,
        });
        setWorker(own);
      },
      (error: Error) => setProblem(error.message),
    );
    return () => {
      gone = true;
      setWorker(null);
      own.terminate();
      for (const { picture } of painted.current.values()) picture.close();
      painted.current.clear();
    };
  }, [chosen, shoot, draw, grid, now]);

  useEffect(() => {
    if (!worker) return;
    const timer = setTimeout(() => {
      round.current++;
      worker.postMessage({ type: 'show', round: round.current, cells: [...cells], before: side === 'before' } satisfies ToLineUp);
    }, PAINT_AFTER_MS);
    return () => clearTimeout(timer);
  }, [cells, side, worker]);

  return { roles, problem, find: (role) => worker?.postMessage({ type: 'find', role } satisfies ToLineUp) };
}
