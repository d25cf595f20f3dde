/** Pictures that a rendering looks at beside the photograph's own pixels in the region. */
import type { Rect, Size } from './geometry.ts';
import type { Planes, Raster } from './planes.ts';
import type { PictureNeed } from './need.ts';
import { levelCount, levelSize } from './resample.ts';

/** A whole picture that was loaded: a level of its pyramid, and its size in full. */
export interface LoadedPicture {
  readonly full: Size;
  readonly level: Raster;
}
/** What was loaded for a need; null where there is nothing (yet). */
export type FindPicture = (need: PictureNeed) => LoadedPicture | null;

export interface Pictures {
  readonly find: FindPicture;
  /** For a mask that looks at it: the picture below its layer. */
  readonly backdrop?: RenderedPicture;
  /** For a mask that looks at it: what its layer itself shows; null where that is nothing by itself. */
  readonly source?: RenderedPicture | null;
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

/** A picture that comes of layers. */
export interface RenderedPicture {
  /** Its pixels in an area, at the scale in work. */
  readonly pixels: (area: Rect) => Planes;
  /** All of it, at the overview's size. */
  readonly overview: () => Raster;
}

export const noPictures: Pictures = { find: () => null };

/** Pictures with another overview: one that is known, or found, already. */
export const withOverview = (pictures: Pictures, level: Raster): Pictures => ({
  ...pictures,
  find: (need) => (need.kind === 'overview' ? { full: level.area, level } : pictures.find(need)),
});

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
