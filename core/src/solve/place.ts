/** Where the pixels of a reading are. */
import { intersect, wholeOf, type Rect, type Scale, type Size } from '../base/geometry.ts';
import { stretchArea, stretchOf } from '../base/stretch.ts';
import { overviewLevel, type Pictures } from '../base/pictures.ts';
import type { Raster } from '../base/planes.ts';
import { levelSize } from '../base/resample.ts';
import type { Reading } from '../document/reading.ts';
import { maskPartKind, type Mask, type MaskPart } from '../mask/registry.ts';

/** A part of the picture at a scale, with what rendering it takes. */
export interface ReadingPlace {
  readonly scale: Scale;
  readonly area: Rect;
  /** The photograph at this scale, covering the area and what layers look at around it. */
  readonly photograph: Raster;
  readonly pictures: Pictures;
}

/** An area is read at the finest level of the pyramid at which it has no more pixels than this. */
const MOST = 1 << 16;

/**
 * At which level of the pyramid a reading is made, and where there: a spot from the photograph's own pixels, an area as finely as its size
 * allows; one that may be anywhere at the level of the overview.
 * @example
 * const reading = { id: 'a', letter: 'A', name: 'Reading A', spot: { x: 10.5, y: 7, side: 5 } };
 * readingPlace(reading, { width: 600, height: 400 }); // → { level: 0, area: { x: 8, y: 5, width: 5, height: 5 } }
 */
export function readingPlace({ spot, where }: Reading, full: Size): { level: number; area: Rect } {
  if (spot) {
    const reach = (spot.side - 1) / 2;
    const middle = { x: Math.floor(spot.x), y: Math.floor(spot.y) };
    const square = { x: middle.x - reach, y: middle.y - reach, width: spot.side, height: spot.side };
    return { level: 0, area: intersect(square, wholeOf(full)) };
  }
  const coarsest = overviewLevel(full);
  const drawn = where && drawnArea(where);
  for (let level = 0; drawn && level <= coarsest; level++) {
    const picture = levelSize(full, level);
    const area = intersect(stretchArea(stretchOf({ picture, full }).toPicture, drawn), wholeOf(picture));
    if (area.width * area.height <= MOST) return { level, area };
  }
  return { level: coarsest, area: wholeOf(levelSize(full, coarsest)) };
}

/** The area of the photograph outside of which a mask of one drawn part lets nothing in; null where it may be anywhere. */
function drawnArea({ parts, refine, invert, link }: Mask): Rect | null {
  const [part] = parts;
  if (parts.length !== 1 || refine.length > 0 || invert || link !== undefined || !part || part.invert) return null;
  return maskPartKind<MaskPart>(part.kind).drawn ? maskPartKind<MaskPart>(part.kind).changedArea(part, part) : null;
}

/** Pixels of one reading that stand for all of them. */
const SAMPLES = 64;

/** The pixels of an area that stand for all of it: evenly over those that count, and always the same. */
export function samplesOf({ width, height }: Rect, weight: Uint16Array | null): number[] {
  const all = Array.from({ length: width * height }, (_, i) => i).filter((i) => !weight || weight[i]! > 655);
  const step = Math.max(1, all.length / SAMPLES);
  return Array.from({ length: Math.min(SAMPLES, all.length) }, (_, k) => all[Math.floor((k + 0.5) * step)] ?? all.at(-1)!);
}
