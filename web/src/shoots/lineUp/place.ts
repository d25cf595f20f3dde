/** Where photographs beside each other are looked at: all at the same place of theirs, as near. */
import type { Rect, Size } from '@umbo/core/base';
import type { Anchor, LineUpCell } from '../../workers/lineUpProtocol';

/** How near all are looked at, against fitting into their cells, and how far from their anchors, in shares of their sides. */
export interface LineUpView {
  zoom: number;
  x: number;
  y: number;
}
export const FITTED: LineUpView = { zoom: 1, x: 0, y: 0 };
export const ZOOMS = [1, 64] as const;

const MIDDLE: Anchor = { x: 0.5, y: 0.5, size: 1 };

/** The rows and columns in which so many pictures are largest. @param ratio of their sides, width to height */
export function gridFor(count: number, { width, height }: Size, ratio: number): { columns: number; rows: number } {
  let best = { columns: 1, rows: count, side: 0 };
  for (let columns = 1; columns <= count; columns++) {
    const rows = Math.ceil(count / columns);
    const side = Math.min(width / columns, (height / rows) * ratio);
    if (side > best.side) best = { columns, rows, side };
  }
  return best;
}

/**
 * What of a photograph its cell shows.
 * @param anchors of the photographs that have one, by which they are linked; their sizes become alike
 */
export function cellOf(
  { id, width, height }: Size & { id: number },
  cell: Size,
  view: LineUpView,
  anchors: ReadonlyMap<number, Anchor>,
): LineUpCell {
  const anchor = anchors.get(id) ?? MIDDLE;
  const mean = anchors.size > 0 ? [...anchors.values()].reduce((sum, { size }) => sum + size, 0) / anchors.size : 1;
  const fit = Math.min(cell.width / width, cell.height / height);
  const scale = fit * view.zoom * (anchors.has(id) ? mean / anchor.size : 1);
  const [across, down] = [width * scale, height * scale];
  const place = (share: number, whole: number, seen: number): number =>
    // What fits is in the middle; what does not is not moved beyond its ends.
    whole <= seen ? Math.round((whole - seen) / 2) : Math.round(Math.min(whole - seen, Math.max(0, share * whole - seen / 2)));
  const area: Rect = {
    x: place(anchor.x + view.x, across, cell.width),
    y: place(anchor.y + view.y, down, cell.height),
    width: cell.width,
    height: cell.height,
  };
  return { id, scale, area };
}
