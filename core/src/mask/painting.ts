/**
 * Paintings of many strokes, kept in squares: every stroke is drawn into a square once, and what is drawn anew while one paints is the last
 * stroke alone. Pixel by pixel it is what drawing all strokes in their order gives.
 */
import { stretchArea, stretchOf } from '../base/stretch.ts';
import { intersect, isEmpty, type Rect } from '../base/geometry.ts';
import { drawStroke, strokeArea, type Alike, type Stroke, type StrokeView } from './stroke.ts';

/** How strokes become pixels. */
export interface Painting<S extends Stroke> {
  readonly strokes: readonly S[];
  /** Planes of what is painted, each beginning as one value. */
  readonly blank: readonly number[];
  /** What of a picture a stroke looks at, in an area; null: nothing. Undefined: not known there. */
  readonly alike: (stroke: S, area: Rect) => Alike | null | undefined;
  /** That picture, if any stroke looks at it: what was drawn by another one is drawn anew. */
  readonly seen: object | null;
  /** Brings a row of a stroke onto the planes. @param at where the row begins */
  readonly lay: (stroke: S, planes: readonly Float32Array[], at: number, cover: Float32Array) => void;
}

/** Side of the squares in pixels of the picture in work. */
const SIDE = 64;
/** Few strokes are drawn as fast as squares are looked up, and large regions are drawn once. */
const FEW = 8;
const LARGE = 1 << 18;
/** Bytes of all squares together. */
const KEPT = 48e6;

interface Square {
  drawn: readonly Stroke[];
  count: number;
  planes: Float32Array[];
}

/** By the painting's first stroke, which stays the same object while others are added, and what it looks at; then by scale and place. */
const squares = new WeakMap<Stroke, WeakMap<object, Map<string, Square>>>();
const NOTHING = {};
/** In the order of their last use. */
const used = new Map<Square, { of: Map<string, Square>; key: string }>();
let bytes = 0;

/** Draws a painting. @returns planes of the region */
export function paint<S extends Stroke>(painting: Painting<S>, view: StrokeView): Float32Array[] {
  const { strokes } = painting;
  const { region } = view;
  const planes = blankPlanes(painting, region.width * region.height);
  const bySquares = strokes.length > FEW && region.width * region.height <= LARGE && fillFromSquares(painting, view, planes);
  const rest = bySquares ? strokes.slice(-1) : strokes;
  for (const stroke of rest) draw(painting, stroke, view, painting.alike(stroke, region) ?? null, planes);
  return planes;
}

const blankPlanes = <S extends Stroke>({ blank }: Painting<S>, n: number): Float32Array[] =>
  blank.map((value) => new Float32Array(n).fill(value));

function draw<S extends Stroke>(
  painting: Painting<S>,
  stroke: S,
  view: StrokeView,
  alike: Alike | null,
  planes: readonly Float32Array[],
): void {
  drawStroke(stroke, view, alike, (at, cover) => painting.lay(stroke, planes, at, cover));
}

/** All strokes but the last. @returns false when that cannot be told from squares */
function fillFromSquares<S extends Stroke>(painting: Painting<S>, view: StrokeView, planes: readonly Float32Array[]): boolean {
  const { region, picture, full } = view;
  const { strokes, blank, seen } = painting;
  let bySeen = squares.get(strokes[0]!);
  if (!bySeen) squares.set(strokes[0]!, (bySeen = new WeakMap<object, Map<string, Square>>()));
  let of = bySeen.get(seen ?? NOTHING);
  if (!of) bySeen.set(seen ?? NOTHING, (of = new Map<string, Square>()));
  for (let y = Math.floor(region.y / SIDE); y * SIDE < region.y + region.height; y++)
    for (let x = Math.floor(region.x / SIDE); x * SIDE < region.x + region.width; x++) {
      const area = intersect({ x: x * SIDE, y: y * SIDE, width: SIDE, height: SIDE }, { x: 0, y: 0, ...picture });
      const square = upToDate(painting, of, { picture, full, region: area }, `${picture.width} ${x} ${y} ${blank.join()}`);
      if (!square) return false;
      const common = intersect(area, region);
      for (const [i, plane] of planes.entries())
        for (let row = common.y; row < common.y + common.height; row++) {
          const from = (row - area.y) * area.width + common.x - area.x;
          plane.set(square.planes[i]!.subarray(from, from + common.width), (row - region.y) * region.width + common.x - region.x);
        }
    }
  return true;
}

/** A square with all strokes but the last in it. */
function upToDate<S extends Stroke>(painting: Painting<S>, of: Map<string, Square>, view: StrokeView, key: string): Square | null {
  const { strokes } = painting;
  const wanted = strokes.length - 1;
  let square = of.get(key);
  if (square) used.delete(square);
  if (!square || square.count > wanted || !begins(strokes, square)) {
    if (square) bytes -= sizeOf(square);
    square = { drawn: strokes, count: 0, planes: blankPlanes(painting, view.region.width * view.region.height) };
    of.set(key, square);
    bytes += sizeOf(square);
  }
  for (let i = square.count; i < wanted; i++) {
    const stroke = strokes[i]!;
    if (isEmpty(intersect(stretchArea(stretchOf(view).toPicture, boxOf(stroke)), view.region))) continue;
    const alike = painting.alike(stroke, view.region);
    if (alike === undefined) {
      bytes -= sizeOf(square);
      of.delete(key);
      return null;
    }
    draw(painting, stroke, view, alike, square.planes);
  }
  square.drawn = strokes;
  square.count = wanted;
  used.set(square, { of, key });
  for (const [oldest, place] of used) {
    if (bytes <= KEPT) break;
    used.delete(oldest);
    place.of.delete(place.key);
    bytes -= sizeOf(oldest);
  }
  return square;
}

const sizeOf = ({ planes }: Square): number => planes.reduce((sum, plane) => sum + plane.byteLength, 0);

function begins(strokes: readonly Stroke[], { drawn, count }: Square): boolean {
  for (let i = 0; i < count; i++) if (strokes[i] !== drawn[i]) return false;
  return true;
}

const boxes = new WeakMap<Stroke, Rect>();
function boxOf(stroke: Stroke): Rect {
  let box = boxes.get(stroke);
  if (!box) boxes.set(stroke, (box = strokeArea(stroke)));
  return box;
}
