/** Pictures that a rendering looks at beside the photograph's own pixels in the region. */
import type { Rect, Size } from './geometry.ts';
import type { Planes, Raster } from './planes.ts';
import { levelCount, levelSize } from './resample.ts';

/** Another photograph, for layers that show it: a level of its pyramid and its size in full. */
export interface OtherPhotograph {
  readonly full: Size;
  readonly level: Raster;
}
/** Finds the pixels of another photograph, at least as fine as `shrink` (1: full size, 0.5: half) asks; null where there are none (yet). */
export type FindPhotograph = (id: number, shrink: number) => OtherPhotograph | null;

export interface Pictures {
  readonly find: FindPhotograph;
  /** The whole photograph at its {@link overviewLevel}; null where no mask needs it. */
  readonly overview: Raster | null;
  /** For a mask that looks at it: the picture below its layer. */
  readonly below?: Below;
  /** What layers that look around made of the picture below them, as far as that is known already, at the scale in work. */
  readonly filtered?: Filtered;
  /** The layers below which is being rendered already: a mask among them that leads back to one looks at the photograph. */
  readonly within?: readonly string[];
}

export interface Filtered {
  readonly ids: ReadonlySet<string>;
  /** What one of these layers made, in an area. */
  readonly read: (id: string, area: Rect) => Raster;
}

/** The picture below a layer. */
export interface Below {
  /** Its pixels in an area, at the scale in work. */
  readonly pixels: (area: Rect) => Planes;
  /** All of it, at the overview's size. */
  readonly overview: () => Raster;
}

export const noPictures: Pictures = { find: () => null, overview: null };

/** Longer side that an overview has at least, where the photograph has it. */
const OVERVIEW_SIDE = 800;

/**
 * The level of the pyramid on which masks look at the photograph as a whole, at whatever scale they are rendered: regions that are
 * connected in one view are connected in all.
 */
export function overviewLevel(full: Size): number {
  let level = 0;
  while (level + 1 < levelCount(full)) {
    const next = levelSize(full, level + 1);
    if (Math.max(next.width, next.height) < OVERVIEW_SIDE) break;
    level++;
  }
  return level;
}
