/** What may be wrong with a mask: marks and holes that nobody meant, and edges that will show. */
import { stretchOf } from '../base/stretch.ts';
import { islands } from '../mask/islands.ts';
import type { Measurement } from './measurement.ts';
import type { Rect } from '../base/geometry.ts';

export interface MaskHealth {
  /** Boxes of small islands, in pixels of the mask that was looked at, or of the photograph. */
  readonly stray: readonly Rect[];
  /** The side of the square into which they fit with their rims, as far as nothing fits that is not small; in the same pixels. */
  readonly straySide: number;
  /** Boxes of small holes. */
  readonly pinholes: readonly Rect[];
  readonly pinholeSide: number;
  /** Share of the mask's edge, 0..1, on which it jumps by more than half from one pixel to the next; and the boxes of the longest pieces. */
  readonly hardShare: number;
  readonly hard: readonly Rect[];
}

const HALF = 32768;
/** Pieces of a hard edge shorter than this are no edge to speak of. */
const PIECE = 12;
const SHOWN = 200;

/** Holes are often meant where marks are not (eyes in a face): they count from this share of what counts for marks. */
const HOLES = 0.1;

/** A stray mark or a pinhole fits into a square: the greater side of its box. */
const sideOf = (box: Rect): number => Math.max(box.width, box.height);

/**
 * Looks a mask over. What is small is judged against the largest part of the mask: a dab beside a face, a fleck beside a dab.
 * @param plane 0..65535, row by row
 * @param share islands of at most this share of the largest one's pixels are stray marks, 0..1; holes of a tenth of it are pinholes
 */
export function healthOf(plane: Uint16Array, width: number, height: number, share: number): MaskHealth {
  const parts = islands(plane, width, height, HALF, true);
  const largest = parts.sizes.reduce((most, size) => Math.max(most, size), 0);
  const small = ({ boxes, sizes }: typeof parts, limit: number): { small: Rect[]; side: number } => {
    const isSmall = sizes.map((size) => size <= limit);
    // The square that takes away what is small, and nothing that is not.
    const least = Math.min(...boxes.filter((_, i) => !isSmall[i]).map(sideOf));
    const found = boxes.filter((_, i) => isSmall[i]);
    // With room for a soft rim, which is wider at the foot of the mask than halfway up.
    const roomy = Math.max(0, ...found.map((box) => Math.ceil(sideOf(box) * 1.3 + 2)));
    return { small: found, side: Math.min(roomy, Math.max(0, least - 1)) };
  };
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
  const stray = small(parts, share * largest);
  const pinholes = small(
    islands(
      plane.map((v) => 65535 - v),
      width,
      height,
      HALF,
      false,
    ),
    HOLES * share * largest,
  );
  return {
    stray: stray.small,
    straySide: stray.side,
    pinholes: pinholes.small,
    pinholeSide: pinholes.side,
    hardShare: edge > 0 ? Math.min(1, hardPixels / edge) : 0,
    hard,
  };
}

interface HealthSettings {
  /** Islands of at most this share of the largest one were hardly meant, 0..1. */
  readonly share: number;
}

/** Of the square into which what is cleaned away fits, in pixels of the photograph. */
const MOST = 300;
/** Width over which an edge that is too hard is softened, in pixels. */
const SOFTEN = 3;

/** What there is to be mended. */
export const marksIn = ({ stray, pinholes }: MaskHealth): number => stray.length + pinholes.length;
export const isHard = ({ hardShare }: MaskHealth): boolean => hardShare > 0.5;

/** Looks a mask over; boxes are found in pixels of the photograph. */
export const maskHealth: Measurement<'maskHealth', HealthSettings, MaskHealth> = {
  kind: 'maskHealth',
  needs: 'mask',
  measure({ share }, { picture: { area }, weight, scale }) {
    const { factor, toPhotograph } = stretchOf(scale);
    const mask = weight ?? new Uint16Array(area.width * area.height).fill(65535);
    const found = healthOf(mask, area.width, area.height, share);
    const inFull = (list: readonly Rect[]): Rect[] =>
      list.map(({ x, y, width, height }) => {
        const [left, top] = [x * toPhotograph.x, y * toPhotograph.y];
        return { x: left, y: top, width: (x + width) * toPhotograph.x - left, height: (y + height) * toPhotograph.y - top };
      });
    return {
      hardShare: found.hardShare,
      stray: inFull(found.stray),
      straySide: found.straySide / factor,
      pinholes: inFull(found.pinholes),
      pinholeSide: found.pinholeSide / factor,
      hard: inFull(found.hard),
    };
  },
  apply(found, _, { where }) {
    const side = (found: number): number => Math.min(MOST, Math.ceil(found));
    if (marksIn(found) > 0) where.refine.unshift({ kind: 'clean', islands: side(found.straySide), holes: side(found.pinholeSide) });
    if (isHard(found) && !where.refine.some(({ kind }) => kind === 'feather')) where.refine.push({ kind: 'feather', radius: SOFTEN });
  },
};
