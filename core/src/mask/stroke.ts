/** Strokes of a brush: vectors in pixels of the full photograph, drawn at any scale. */
import { stretchArea, stretchOf } from '../base/stretch.ts';
import type { Weight } from '../base/weight.ts';
import type { Fit } from '../base/fit.ts';
import { Type, type Static } from '@sinclair/typebox';
import { nearestDecides } from './likeness.ts';
import { OVERVIEW, type PictureNeed } from '../base/need.ts';
import { overviewOklab } from './overview.ts';
import type { MaskView, OklabPlanes } from './part.ts';
import { intersect, isEmpty, union, type Rect, type Size } from '../base/geometry.ts';

export const strokeSchema = Type.Object(
  {
    id: Type.String({ minLength: 1, maxLength: 40 }),
    /** Diameter of the dab in pixels of the full photograph. */
    size: Type.Number({ minimum: 0.5, maximum: 5000 }),
    /** Share of the radius that is full, 0..1; the rest falls off smoothly. */
    hardness: Type.Number({ minimum: 0, maximum: 1 }),
    /** What one dab adds, 0..1. */
    flow: Type.Number({ minimum: 0, maximum: 1 }),
    /** What the whole stroke can reach, 0..1. */
    opacity: Type.Number({ minimum: 0, maximum: 1 }),
    erase: Type.Boolean(),
    /** A dab takes only what is this like the pixel under its centre, in deltaEOK2 times 100; left out: everything. */
    alike: Type.Optional(Type.Number({ minimum: 0.5, maximum: 60 })),
    /** x, y, pressure; x, y, pressure; ... in pixels of the full photograph, pressure 0..1. */
    points: Type.Array(Type.Number({ minimum: -1e6, maximum: 1e6 }), { minItems: 3, maxItems: 60_000 }),
  },
  { additionalProperties: false },
);
export type Stroke = Static<typeof strokeSchema>;

/** Distance between dabs as a share of the brush's diameter. */
const SPACING = 0.125;

const stepOf = ({ size }: Stroke): number => Math.max(0.5, size * SPACING);

/**
 * Calls `dab` for every dab of a stroke that can touch the photograph, in full-photograph pixels: they depend neither on the scale nor on the
 * region in work. Far outside nothing is walked through, however long a stroke is there.
 */
function walk(stroke: Stroke, full: Size, dab: (x: number, y: number, pressure: number) => void): void {
  const { points } = stroke;
  const step = stepOf(stroke);
  const around = stroke.size / 2 + 2;
  let x = points[0]!;
  let y = points[1]!;
  let pressure = points[2]!;
  dab(x, y, pressure);
  let left = step;
  for (let i = 3; i + 2 < points.length; i += 3) {
    const nx = points[i]!;
    const ny = points[i + 1]!;
    const np = points[i + 2]!;
    const length = Math.sqrt((nx - x) * (nx - x) + (ny - y) * (ny - y));
    const [enters, leaves] = within(x, y, nx, ny, full, around);
    let at = left;
    const before = Math.floor((enters * length - at) / step);
    if (before > 0) at += before * step;
    for (; at <= length; at += step) {
      const t = at / length;
      if (t > leaves) {
        at += (Math.floor((length - at) / step) + 1) * step;
        break;
      }
      dab(x + (nx - x) * t, y + (ny - y) * t, pressure + (np - pressure) * t);
    }
    left = at - length;
    x = nx;
    y = ny;
    pressure = np;
  }
}

/** The shares of a line, 0..1, between which it can touch the photograph; Liang and Barsky's line clipping (ACM TOG 3, 1984). */
function within(x: number, y: number, nx: number, ny: number, { width, height }: Size, around: number): [number, number] {
  let [enters, leaves] = [0, 1];
  for (const [from, to, end] of [
    [x, nx, width],
    [y, ny, height],
  ] as const) {
    if (from === to) {
      if (from < -around || from > end + around) return [1, 0];
      continue;
    }
    const [a, b] = [(-around - from) / (to - from), (end + around - from) / (to - from)];
    enters = Math.max(enters, Math.min(a, b));
    leaves = Math.min(leaves, Math.max(a, b));
  }
  return [enters, leaves];
}

const dabsSeen = new WeakMap<Stroke, number>();

/** How many dabs a stroke is made of. */
function dabsOf(stroke: Stroke): number {
  let dabs = dabsSeen.get(stroke);
  if (dabs === undefined) {
    const { points } = stroke;
    let length = 0;
    for (let i = 3; i + 2 < points.length; i += 3) length += Math.hypot(points[i]! - points[i - 3]!, points[i + 1]! - points[i - 2]!);
    dabs = 1 + Math.floor(length / stepOf(stroke));
    dabsSeen.set(stroke, dabs);
  }
  return dabs;
}

/** The area of the full photograph that the points from number `first` on can touch. */
export function strokeArea(stroke: Stroke, first = 0): Rect {
  const reach = stroke.size / 2 + 1;
  let x0 = Infinity;
  let y0 = Infinity;
  let x1 = -Infinity;
  let y1 = -Infinity;
  for (let i = first * 3; i + 2 < stroke.points.length; i += 3) {
    x0 = Math.min(x0, stroke.points[i]!);
    x1 = Math.max(x1, stroke.points[i]!);
    y0 = Math.min(y0, stroke.points[i + 1]!);
    y1 = Math.max(y1, stroke.points[i + 1]!);
  }
  return { x: x0 - reach, y: y0 - reach, width: x1 - x0 + 2 * reach, height: y1 - y0 + 2 * reach };
}

/** What a stroke that takes only what is alike looks at. */
export interface Alike {
  /** The region's pixels in OKLab. */
  readonly lab: OklabPlanes;
  /** The overview's, and its size: there the colour under a dab's centre is known wherever it lies. */
  readonly overview: OklabPlanes;
  readonly size: Size;
  /** Distance up to which a pixel is alike, in deltaEOK2 times 100; it fades over half as much again. */
  readonly tolerance: number;
}

/** What a painting looks at of the photograph, for strokes that take only what is alike. */
export type SeenByStrokes = Pick<MaskView, 'space' | 'region' | 'oklab' | 'oklabOf' | 'overview'>;

/** What of the photograph a stroke looks at in an area; null: nothing; undefined: it is not known there. */
export function alikeFor(stroke: Stroke, area: Rect, view: SeenByStrokes): Alike | null | undefined {
  if (stroke.alike === undefined) return null;
  const lab = area === view.region ? view.oklab() : view.oklabOf(area);
  if (!lab) return undefined;
  const overview = view.overview();
  return { lab, overview: overviewOklab(view.space, overview), size: overview.area, tolerance: stroke.alike };
}

/** The picture that strokes look at; null: they look at none. */
export const seenByStrokes = (strokes: readonly Stroke[], view: SeenByStrokes): object | null =>
  strokes.some(({ alike }) => alike !== undefined) ? view.overview() : null;

/** What strokes need beside the photograph's own pixels. */
export const strokeNeeds = (strokes: readonly Stroke[]): readonly PictureNeed[] =>
  strokes.some(({ alike }) => alike !== undefined) ? [OVERVIEW] : [];

/** What strokes are drawn into. */
export interface StrokeView {
  /** The size of the picture at the scale in work, and of the full photograph. */
  readonly picture: Size;
  readonly full: Size;
  /** The pixels to draw, in the picture in work. */
  readonly region: Rect;
}

/**
 * Draws one stroke: calls `row` for every row of pixels that it touches.
 * Dabs build up `1 - (1 - flow)^n` inside the stroke and never past its opacity.
 * @param alike leaves out of every dab what is not like the pixel under its centre; null paints all of it
 * @param row gets where the row begins in the region (counted row by row), and how far each of its pixels is covered, 0..1
 */
export function drawStroke(stroke: Stroke, view: StrokeView, alike: Alike | null, row: (at: number, cover: Float32Array) => void): void {
  const { region, full } = view;
  const { toPicture } = stretchOf(view);
  const touched = intersect(stretchArea(toPicture, strokeArea(stroke)), region);
  if (isEmpty(touched)) return;
  const radius = (stroke.size / 2) * Math.sqrt(toPicture.x * toPicture.y);
  // The rim is at least a pixel wide, so that hard edges stay smooth at every scale.
  const outer = radius + 0.5;
  const inner = Math.max(0, Math.min(stroke.hardness * radius, outer - 1));
  const rim = 1 / (outer - inner);
  const build = new Float32Array(touched.width * touched.height);
  walk(stroke, full, (fx, fy, pressure) => {
    const cx = fx * toPicture.x;
    const cy = fy * toPicture.y;
    const flow = stroke.flow * pressure;
    const centre = alike && centreOf(alike, fx / full.width, fy / full.height);
    const x0 = Math.max(touched.x, Math.floor(cx - outer));
    const x1 = Math.min(touched.x + touched.width, Math.ceil(cx + outer));
    const y0 = Math.max(touched.y, Math.floor(cy - outer));
    const y1 = Math.min(touched.y + touched.height, Math.ceil(cy + outer));
    for (let y = y0; y < y1; y++) {
      const dy = y + 0.5 - cy;
      let i = (y - touched.y) * touched.width + x0 - touched.x;
      for (let x = x0; x < x1; x++, i++) {
        const dx = x + 0.5 - cx;
        let t = (outer - Math.sqrt(dx * dx + dy * dy)) * rim;
        if (t <= 0) continue;
        if (t > 1) t = 1;
        let amount = flow * t * t * (3 - 2 * t);
        if (centre) amount *= likeCentre(alike!, centre, (y - region.y) * region.width + x - region.x);
        build[i] = build[i]! + (1 - build[i]!) * amount;
      }
    }
  });
  for (let i = 0; i < build.length; i++) build[i] = build[i]! * stroke.opacity;
  for (let y = 0; y < touched.height; y++)
    row((touched.y - region.y + y) * region.width + touched.x - region.x, build.subarray(y * touched.width, (y + 1) * touched.width));
}

function centreOf({ overview, size: { width, height } }: Alike, u: number, v: number): readonly [number, number, number] {
  const at = Math.max(0, Math.min(height - 1, Math.floor(v * height))) * width + Math.max(0, Math.min(width - 1, Math.floor(u * width)));
  return [overview.l[at]!, overview.a[at]!, overview.b[at]!];
}

function likeCentre({ lab, tolerance }: Alike, [l, a, b]: readonly [number, number, number], at: number): number {
  const [dl, da, db] = [lab.l[at]! - l, lab.a[at]! - a, lab.b[at]! - b];
  return nearestDecides(Math.sqrt(dl * dl + da * da + db * db), Infinity, tolerance, tolerance / 2);
}

/** Where two states of one stroke differ: the new end when one continues the other. */
function strokeChange(before: Stroke, after: Stroke): Rect {
  const { points: a, ...styleBefore } = before;
  const { points: b, ...styleAfter } = after;
  const sameStyle = JSON.stringify(styleBefore) === JSON.stringify(styleAfter);
  const shared = Math.min(a.length, b.length);
  let same = 0;
  while (same < shared && a[same] === b[same]) same++;
  if (!sameStyle || same < shared) return union(strokeArea(before), strokeArea(after));
  const longer = a.length > b.length ? before : after;
  return strokeArea(longer, Math.max(0, shared / 3 - 1));
}

/** The area of the full photograph in which two lists of strokes can differ. */
export function strokesChange(before: readonly Stroke[], after: readonly Stroke[]): Rect {
  let area: Rect = { x: 0, y: 0, width: 0, height: 0 };
  const longest = Math.max(before.length, after.length);
  for (let i = 0; i < longest; i++) {
    const a = before[i];
    const b = after[i];
    if (a === b) continue;
    area = union(area, a && b ? strokeChange(a, b) : strokeArea((a ?? b)!));
  }
  return area;
}

/** How heavy strokes are. */
export const weightOfStrokes = (strokes: readonly Stroke[]): Weight => ({
  strokes: strokes.reduce((sum, { points }) => sum + points.length, 0),
  dabs: strokes.reduce((sum, stroke) => sum + dabsOf(stroke), 0),
});

/** The same strokes on a photograph of another size. */
export function fitStrokes(strokes: readonly Stroke[], fit: Fit): void {
  for (const stroke of strokes as Stroke[]) {
    stroke.size = Math.max(0.5, Math.min(5000, fit.size(stroke.size)));
    stroke.points = stroke.points.map((v, i) => (i % 3 === 0 ? fit.x(v) : i % 3 === 1 ? fit.y(v) : v));
  }
}
