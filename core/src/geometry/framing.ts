/** From a geometry to the projection between photograph and picture. */
import type { Framing, Rect, Scale, Size } from '../base/geometry.ts';
import { composed, project, scaling, shift } from '../base/framing.ts';
import { inverse, type Matrix } from '../base/matrix.ts';
import { keepsPixels, planeOf, type Geometry } from './geometry.ts';
import { largestCrop } from './largestCrop.ts';

/** How much nearer the far side comes at 100 %, at half of the photograph's longer side from its middle. */
const STEEPEST = 0.4;

/** What the two perspective settings are as the last row of a projection about the photograph's middle. */
const steepness = (percent: number, { width, height }: Size): number => ((percent / 100) * STEEPEST) / (Math.max(width, height) / 2);
export const percentOf = (steep: number, { width, height }: Size): number => ((steep * (Math.max(width, height) / 2)) / STEEPEST) * 100;

/**
 * From pixels of the photograph to pixels of the turned one, before anything is cropped: perspective, then stretch and skew, then the
 * angle, about the photograph's middle; then quarter turns, and left and right exchanged.
 */
export function toPlane(geometry: Geometry, photo: Size): Matrix {
  const { quarters, flipped, angle, vertical, horizontal, skew, stretch } = geometry;
  const plane = planeOf(geometry, photo);
  const wider = 2 ** (stretch / 200);
  const [sin, cos] = [Math.sin((angle * Math.PI) / 180), Math.cos((angle * Math.PI) / 180)];
  const quarter = (
    [
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1],
    ] as const
  )[quarters]!;
  return composed(
    shift(-photo.width / 2, -photo.height / 2),
    [
      [1, 0, 0],
      [0, 1, 0],
      [steepness(horizontal, photo), steepness(vertical, photo), 1],
    ],
    [
      [wider, skew / 100, 0],
      [0, 1 / wider, 0],
      [0, 0, 1],
    ],
    [
      [cos, -sin, 0],
      [sin, cos, 0],
      [0, 0, 1],
    ],
    [
      [quarter[0], -quarter[1], 0],
      [quarter[1], quarter[0], 0],
      [0, 0, 1],
    ],
    scaling(flipped ? -1 : 1, 1),
    shift(plane.width / 2, plane.height / 2),
  );
}

/** The photograph's corners on the plane, clockwise from the one that is at its top left. */
export function outlineOnPlane(geometry: Geometry, { width, height }: Size): [number, number][] {
  const matrix = toPlane(geometry, { width, height });
  return [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ].map(([x, y]) => project(matrix, x!, y!));
}

/**
 * The crop that is in force.
 * @example
 * cropOf({ ...noGeometry, quarters: 1 }, { width: 60, height: 40 }); // → { x: 0, y: 0, width: 40, height: 60 }
 */
export function cropOf(geometry: Geometry, photo: Size): Rect {
  if (geometry.crop) return geometry.crop;
  const plane = planeOf(geometry, photo);
  return keepsPixels(geometry) ? { x: 0, y: 0, ...plane } : largestCrop(outlineOnPlane(geometry, photo), plane);
}

/**
 * @param crop on the plane; left out: the one in force
 * @returns undefined where the picture is the photograph
 */
export function framingOf(geometry: Geometry | undefined, photo: Size, crop?: Rect): Framing | undefined {
  if (!geometry) return undefined;
  const { x, y, width, height } = crop ?? cropOf(geometry, photo);
  const isUpright = keepsPixels(geometry);
  const isAll = x === 0 && y === 0 && width === photo.width && height === photo.height;
  if (isUpright && isAll && geometry.quarters === 0 && !geometry.flipped) return undefined;
  const toPicture = composed(toPlane(geometry, photo), shift(-x, -y));
  return { size: { width, height }, toPicture, toPhotograph: inverse(toPicture), keepsPixels: isUpright, outside: geometry.outside };
}

/** The same between the photograph and the picture at the size in work. */
export interface FramingAt {
  /** The picture's size. */
  readonly size: Size;
  readonly toPicture: Matrix;
  readonly toPhotograph: Matrix;
}

/** Where all of the picture lies on the photograph. */
function partOf({ size, toPhotograph }: Framing): { x0: number; y0: number; x1: number; y1: number } {
  const [ax, ay] = project(toPhotograph, 0, 0);
  const [bx, by] = project(toPhotograph, size.width, size.height);
  return { x0: Math.min(ax, bx), y0: Math.min(ay, by), x1: Math.max(ax, bx), y1: Math.max(ay, by) };
}

/**
 * @param scale of the photograph; its picture is the photograph at the size in work
 * @example
 * const photo = { width: 600, height: 400 };
 * const framing = framingOf({ ...noGeometry, quarters: 1 }, photo);
 * framingAt({ picture: { width: 60, height: 40 }, full: photo }, framing).size; // → { width: 40, height: 60 }
 */
export function framingAt({ picture, full }: Pick<Scale, 'picture' | 'full'>, framing: Framing): FramingAt {
  const [sx, sy] = [picture.width / full.width, picture.height / full.height];
  if (!framing.keepsPixels) {
    const side = (length: number): number => Math.max(1, Math.round(length * sx));
    const size = { width: side(framing.size.width), height: side(framing.size.height) };
    const out = scaling(size.width / framing.size.width, size.height / framing.size.height);
    return {
      size,
      toPicture: composed(scaling(1 / sx, 1 / sy), framing.toPicture, out),
      toPhotograph: composed(inverse(out), framing.toPhotograph, scaling(sx, sy)),
    };
  }
  // At every size whole pixels of the photograph: its edges are rounded, and nothing is resampled.
  const part = partOf(framing);
  const [x0, y0] = [Math.round(part.x0 * sx), Math.round(part.y0 * sy)];
  const [width, height] = [Math.max(1, Math.round(part.x1 * sx) - x0), Math.max(1, Math.round(part.y1 * sy) - y0)];
  const turn = framing.toPicture.map(([a, b], i) => (i < 2 ? [a, b, 0] : [0, 0, 1])) as unknown as Matrix;
  const [cx, cy] = project(turn, width, height);
  const toPicture = composed(shift(-x0, -y0), turn, shift(cx < 0 ? -cx : 0, cy < 0 ? -cy : 0));
  return { size: { width: Math.abs(cx), height: Math.abs(cy) }, toPicture, toPhotograph: inverse(toPicture) };
}

const SAME = scaling(1, 1);

/** Where pixels of the photograph at the size in work lie in the picture, for what goes by the picture's frame. */
export function placesInPicture(scale: Pick<Scale, 'picture' | 'full' | 'framing'>): Pick<FramingAt, 'size' | 'toPicture'> {
  return scale.framing ? framingAt(scale, scale.framing) : { size: scale.picture, toPicture: SAME };
}

/**
 * Which pixels of an area of the photograph, at the size in work, are in the picture.
 * @returns 1 for those that are; null: all of them
 */
export function pixelsInPicture(scale: Scale, area: Rect): Uint8Array | null {
  if (!scale.framing) return null;
  const { size, toPicture } = framingAt(scale, scale.framing);
  return new Uint8Array(area.width * area.height).map((_, i) => {
    const [x, y] = project(toPicture, area.x + (i % area.width) + 0.5, area.y + Math.floor(i / area.width) + 0.5);
    return x >= 0 && y >= 0 && x < size.width && y < size.height ? 1 : 0;
  });
}

/** The size of the picture that is made of a photograph at the size in work. */
export const sizeAt = (scale: Scale): Size => (scale.framing ? framingAt(scale, scale.framing).size : scale.picture);
