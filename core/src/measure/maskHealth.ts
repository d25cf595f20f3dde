/** What may be wrong with a mask: marks and holes that nobody meant, and edges that will show. */
import { mappingOf, mapX, mapY } from '../base/mapping.ts';
import { islands } from '../mask/islands.ts';
import type { Measurement } from './measurement.ts';
import type { Rect } from '../base/geometry.ts';

export interface MaskHealth {
  /** Boxes of small islands, in pixels of the mask that was looked at, or of the photograph. */
  readonly stray: readonly Rect[];
  /** Boxes of small holes. */
  readonly pinholes: readonly Rect[];
  /** Share of the mask's edge, 0..1, on which it jumps by more than half from one pixel to the next; and the boxes of the longest pieces. */
  readonly hardShare: number;
  readonly hard: readonly Rect[];
}

const HALF = 32768;
/** Pieces of a hard edge shorter than this are no edge to speak of. */
const PIECE = 12;
const SHOWN = 200;

/**
 * @param side islands and holes that fit into a square of this many pixels are stray marks and pinholes
 */
export function healthOf(plane: Uint16Array, width: number, height: number, side: number): MaskHealth {
  const small = (values: Uint16Array, diagonal: boolean): Rect[] =>
    islands(values, width, height, HALF, diagonal).boxes.filter((box) => Math.max(box.width, box.height) <= side);
  const jumps = new Uint16Array(plane.length);
  let edge = 0;
  let hardPixels = 0;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const right = x + 1 < width ? Math.abs(plane[i]! - plane[i + 1]!) : 0;
      const below = y + 1 < height ? Math.abs(plane[i]! - plane[i + width]!) : 0;
      const jump = Math.max(right, below);
      if ((x + 1 < width && plane[i]! > HALF !== plane[i + 1]! > HALF) || (y + 1 < height && plane[i]! > HALF !== plane[i + width]! > HALF))
        edge++;
      if (jump > HALF) {
        jumps[i] = 65535;
        hardPixels++;
      }
    }
  const pieces = islands(jumps, width, height, HALF, true);
  const hard = pieces.boxes
    .map((box, i) => ({ box, size: pieces.sizes[i]! }))
    .filter(({ size }) => size >= PIECE)
    .sort((a, b) => b.size - a.size)
    .slice(0, SHOWN)
    .map(({ box }) => box);
  const holes = plane.map((v) => 65535 - v);
  return { stray: small(plane, true), pinholes: small(holes, false), hardShare: edge > 0 ? Math.min(1, hardPixels / edge) : 0, hard };
}

interface HealthSettings {
  /** Islands and holes that fit into a square of this many pixels of the photograph were hardly meant. */
  readonly side: number;
}

/** Width over which an edge that is too hard is softened, in pixels. */
const SOFTEN = 3;

/** What there is to be mended. */
export const marksIn = ({ stray, pinholes }: MaskHealth): number => stray.length + pinholes.length;
export const isHard = ({ hardShare }: MaskHealth): boolean => hardShare > 0.5;

/** Looks a mask over; boxes are found in pixels of the photograph. */
export const maskHealth: Measurement<'maskHealth', HealthSettings, MaskHealth> = {
  kind: 'maskHealth',
  needs: 'mask',
  measure({ side }, { picture: { area }, weight, scale }) {
    const { factor, toPhotograph } = mappingOf(scale);
    const mask = weight ?? new Uint16Array(area.width * area.height).fill(65535);
    const { hardShare, ...boxes } = healthOf(mask, area.width, area.height, Math.max(1, side * factor));
    const inFull = (list: readonly Rect[]): Rect[] =>
      list.map(({ x, y, width, height }) => {
        const [left, top] = [mapX(toPhotograph, x, y), mapY(toPhotograph, x, y)];
        return { x: left, y: top, width: mapX(toPhotograph, x + width, y) - left, height: mapY(toPhotograph, x, y + height) - top };
      });
    return { hardShare, stray: inFull(boxes.stray), pinholes: inFull(boxes.pinholes), hard: inFull(boxes.hard) };
  },
  apply(found, { side }, { where }) {
    if (marksIn(found) > 0) where.refine.unshift({ kind: 'clean', islands: side, holes: side });
    if (isHard(found) && !where.refine.some(({ kind }) => kind === 'feather')) where.refine.push({ kind: 'feather', radius: SOFTEN });
  },
};
