import type { Rect, Scale } from './geometry.ts';

/** Takes places (x, y) to (x0 + x xx + y xy, y0 + x yx + y yy). */
export interface PlaceMap {
  readonly x0: number;
  readonly xx: number;
  readonly xy: number;
  readonly y0: number;
  readonly yx: number;
  readonly yy: number;
}

/** How the photograph, in whose pixels an edit's places and lengths are, lies in the picture that is made of it. */
export interface Mapping {
  readonly toPicture: PlaceMap;
  readonly toPhotograph: PlaceMap;
  /** Pixels of the picture for one of the photograph, for lengths without a direction. */
  readonly factor: number;
}

/** A stretch along both axes, moved afterwards. */
export const stretch = (xx: number, yy: number, x0 = 0, y0 = 0): PlaceMap => ({ x0, xx, xy: 0, y0, yx: 0, yy });

/**
 * The one place where the two are brought together: now the picture shows all of the photograph, smaller.
 * @example
 * const { toPicture } = mappingOf({ picture: { width: 60, height: 40 }, full: { width: 600, height: 400 } });
 * mapArea(toPicture, { x: 101, y: 20, width: 10, height: 10 }); // → { x: 10, y: 2, width: 2, height: 1 }
 */
export const mappingOf = ({ picture, full }: Pick<Scale, 'picture' | 'full'>): Mapping => ({
  toPicture: stretch(picture.width / full.width, picture.height / full.height),
  toPhotograph: stretch(full.width / picture.width, full.height / picture.height),
  factor: picture.width / full.width,
});

export const mapX = (map: PlaceMap, x: number, y: number): number => map.x0 + x * map.xx + y * map.xy;
export const mapY = (map: PlaceMap, x: number, y: number): number => map.y0 + x * map.yx + y * map.yy;

/** The whole pixels that an area touches where it is taken to. */
export function mapArea(map: PlaceMap, { x, y, width, height }: Rect): Rect {
  const [right, bottom] = [x + width, y + height];
  const corners = [
    [x, y],
    [right, y],
    [x, bottom],
    [right, bottom],
  ] as const;
  const [xs, ys] = [mapX, mapY].map((along) => corners.map(([cx, cy]) => along(map, cx, cy))) as [number[], number[]];
  const [x0, y0] = [Math.floor(Math.min(...xs)), Math.floor(Math.min(...ys))];
  return { x: x0, y: y0, width: Math.ceil(Math.max(...xs)) - x0, height: Math.ceil(Math.max(...ys)) - y0 };
}
