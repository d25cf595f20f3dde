/** From the photograph, in whose pixels an edit's places and lengths are, to its picture at a scale: a factor along each axis. What is cut and turned of that picture is a projection (`framing.ts`). */
import type { Rect, Scale } from './geometry.ts';

/** Factors along both axes. */
export interface Stretch {
  readonly x: number;
  readonly y: number;
}

/**
 * The factors between the photograph and its picture at a scale.
 * @returns `factor`: pixels of the picture for one of the photograph, for lengths without a direction
 * @example
 * const { toPicture } = stretchOf({ picture: { width: 60, height: 40 }, full: { width: 600, height: 400 } });
 * stretchArea(toPicture, { x: 101, y: 20, width: 10, height: 10 }); // → { x: 10, y: 2, width: 2, height: 1 }
 */
export const stretchOf = ({
  picture,
  full,
}: Pick<Scale, 'picture' | 'full'>): { readonly toPicture: Stretch; readonly toPhotograph: Stretch; readonly factor: number } => ({
  toPicture: { x: picture.width / full.width, y: picture.height / full.height },
  toPhotograph: { x: full.width / picture.width, y: full.height / picture.height },
  factor: picture.width / full.width,
});

/** The whole pixels that an area touches where it is taken to. */
export function stretchArea(stretch: Stretch, { x, y, width, height }: Rect): Rect {
  const [x0, y0] = [Math.floor(x * stretch.x), Math.floor(y * stretch.y)];
  return { x: x0, y: y0, width: Math.ceil((x + width) * stretch.x) - x0, height: Math.ceil((y + height) * stretch.y) - y0 };
}
