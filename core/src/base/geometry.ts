import type { Matrix } from './matrix.ts';
import type { ColourSpace, SpaceId } from './space.ts';

/** A rectangle of whole pixels; empty when width or height is not positive. */
export interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
export interface Size {
  readonly width: number;
  readonly height: number;
}
/** Where the photograph lies in the picture that is cut from it, in pixels of both, in full. */
export interface Framing {
  /** The picture's size. */
  readonly size: Size;
  readonly toPicture: Matrix;
  readonly toPhotograph: Matrix;
  /** Whether every pixel of the picture is one of the photograph's, or of the canvas. */
  readonly keepsPixels: boolean;
  /** What is around the photograph: a colour, and over how many pixels the photograph's edge fades into it. */
  readonly outside: { readonly colour: readonly [number, number, number]; readonly fade: number };
}

/** What a picture is rendered at: its size now, and the size of the photograph it stands for. */
export interface Scale {
  readonly picture: Size;
  readonly full: Size;
  /** The space of its pixels; left out: sRGB. */
  readonly space?: SpaceId;
  /** The picture that is cut from the photograph; left out: all of it, as it is. */
  readonly framing?: Framing | undefined;
}

/** Where the pixels in work lie, and what they mean: a tile of the picture at the scale in work. */
export interface Place {
  readonly scale: Scale;
  readonly space: ColourSpace;
  readonly tile: Rect;
}

export const isEmpty = (r: Rect): boolean => !(r.width > 0 && r.height > 0);

export function intersect(a: Rect, b: Rect): Rect {
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  return { x, y, width: Math.min(a.x + a.width, b.x + b.width) - x, height: Math.min(a.y + a.height, b.y + b.height) - y };
}

/** The smallest rectangle that holds both; an empty one adds nothing. */
export function union(a: Rect, b: Rect): Rect {
  if (isEmpty(a)) return b;
  if (isEmpty(b)) return a;
  const x = Math.min(a.x, b.x);
  const y = Math.min(a.y, b.y);
  return { x, y, width: Math.max(a.x + a.width, b.x + b.width) - x, height: Math.max(a.y + a.height, b.y + b.height) - y };
}

export const contains = (outer: Rect, inner: Rect): boolean =>
  isEmpty(inner) ||
  (inner.x >= outer.x &&
    inner.y >= outer.y &&
    inner.x + inner.width <= outer.x + outer.width &&
    inner.y + inner.height <= outer.y + outer.height);

export const expand = (r: Rect, by: number): Rect => ({ x: r.x - by, y: r.y - by, width: r.width + 2 * by, height: r.height + 2 * by });

export const wholeOf = (size: Size): Rect => ({ x: 0, y: 0, width: size.width, height: size.height });

/** Such as "30 × 20 at 5, 7", for errors. */
export const areaInWords = ({ x, y, width, height }: Rect): string => `${width} × ${height} at ${x}, ${y}`;
