import { toTenth } from '../../base/number.ts';
import { Type, type Static } from '@sinclair/typebox';
import { colourSchema, type Colour } from '../../colour/colour.ts';
import { BACKDROP, OVERVIEW } from '../../base/need.ts';
import { expand, intersect, isEmpty, type Rect } from '../../base/geometry.ts';
import type { Raster } from '../../base/planes.ts';
import { floodFill } from '../flood.ts';
import { nearer, nearestDecides } from '../likeness.ts';
import { overviewOklab, sampledArea, sampleSmooth } from '../overview.ts';
import { newPart, partSchema, position, type MaskPartKind, type MaskView } from '../part.ts';

const pickSchema = Type.Object(
  {
    x: position,
    y: position,
    /** What the pixels around the click looked like. */
    colour: colourSchema,
    away: Type.Boolean(),
  },
  { additionalProperties: false },
);

const schema = partSchema('pick', {
  /** In the order in which they were made. */
  picks: Type.Array(pickSchema, { maxItems: 200 }),
  /** Distance up to which a pixel is alike, in deltaEOK2 times 100, and the further distance over which that fades. */
  tolerance: Type.Number({ minimum: 0.2, maximum: 60 }),
  softness: Type.Number({ minimum: 0.1, maximum: 30 }),
  /** Whether only pixels count that are connected to the click through alike ones. */
  contiguous: Type.Boolean(),
  /** Whether it looks at the picture below the layer, as it is so far, instead of the photograph. */
  result: Type.Boolean(),
});
export type PickPart = Static<typeof schema>;

type Pick = PickPart['picks'][number];

/** Pixels of the overview that are reached, a bit each, row by row of a rectangle around all of them. */
interface Reached {
  readonly bits: Uint8Array;
  readonly area: Rect;
  readonly reach: number;
}

/** By photograph and pick: a pick keeps its region while others are made, and lets go of it with itself. */
const regions = new WeakMap<Raster, WeakMap<Pick, Reached>>();

/** The pixels of the overview, and one around them, that a pick reaches. */
function reached(pick: Pick, reach: number, raster: Raster, { full, space }: MaskView): Reached {
  let known = regions.get(raster);
  if (!known) regions.set(raster, (known = new WeakMap()));
  let found = known.get(pick);
  if (found?.reach !== reach) {
    const { width, height } = raster.area;
    const distance = new Float32Array(width * height).fill(Infinity);
    nearer(space, overviewOklab(space, raster), pick.colour, 1, distance);
    const x = Math.max(0, Math.min(width - 1, Math.floor((pick.x / full.width) * width)));
    const y = Math.max(0, Math.min(height - 1, Math.floor((pick.y / full.height) * height)));
    const seed = y * width + x; // alike by definition, whatever the overview made of its colour
    const region = floodFill(width, height, x, y, (i) => distance[i]! <= reach || i === seed);
    found = { ...widen(region, width, height), reach };
    known.set(pick, found);
  }
  return found;
}

/** Writes a part of what is reached into a picture of the overview's size: 0 or 1. */
function unpack({ bits, area }: Reached, part: Rect, width: number, out: Uint8Array): void {
  for (let y = part.y; y < part.y + part.height; y++)
    for (let x = part.x, i = (y - area.y) * area.width + x - area.x; x < part.x + part.width; x++, i++)
      out[y * width + x] = (bits[i >> 3]! >> (i & 7)) & 1;
}

function clear(out: Uint8Array, { x, y, width, height }: Rect, rowLength: number): void {
  for (let row = y; row < y + height; row++) out.fill(0, row * rowLength + x, row * rowLength + x + width);
}

/** One pixel more to every side: the edge itself is found at the scale in work. */
function widen(region: Uint8Array, width: number, height: number): Omit<Reached, 'reach'> {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      if (region[i] === 1) [left, top, right, bottom] = [Math.min(left, x), Math.min(top, y), Math.max(right, x), y];
  const around = expand({ x: left, y: top, width: right - left + 1, height: bottom - top + 1 }, 1);
  const area = intersect(around, { x: 0, y: 0, width, height });
  const bits = new Uint8Array(Math.ceil((area.width * area.height) / 8));
  for (let y = top; y <= bottom; y++)
    for (let x = left; x <= right; x++)
      if (region[y * width + x] === 1)
        for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
          for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
            const i = (v - area.y) * area.width + u - area.x;
            bits[i >> 3]! |= 1 << (i & 7);
          }
  return { bits, area };
}

export const pick: MaskPartKind<PickPart> = {
  kind: 'pick',
  travels: 'to be checked',
  drawn: true,
  tool: 'catch',
  name: 'Pick',
  schema,
  controls: [
    { key: 'tolerance', label: 'Tolerance', step: 0.5, unit: 'ΔE', usual: [0.2, 30] },
    { key: 'softness', label: 'Softness', step: 0.5, unit: 'ΔE', usual: [0.1, 15] },
    { key: 'contiguous', label: 'Only neighbours' },
    { key: 'result', label: 'Of the result so far' },
  ],
  create: (id, combine) => ({ ...newPart('pick', id, combine), result: false, picks: [], tolerance: 6, softness: 2, contiguous: true }),
  needs: ({ contiguous, picks, result }) => [...(contiguous && picks.length > 0 ? [OVERVIEW] : []), ...(result ? [BACKDROP] : [])],

  cover(part, view, out) {
    const lab = view.oklab();
    const near = new Float32Array(out.length).fill(Infinity);
    const away = new Float32Array(out.length).fill(Infinity);
    const raster = part.contiguous && part.picks.length > 0 ? view.overview() : null;
    const distance = new Float32Array(out.length);
    const inside = new Float32Array(out.length).fill(1);
    const sampled = raster && sampledArea(raster.area, view);
    const region = new Uint8Array(raster ? raster.area.width * raster.area.height : 0);
    out.fill(0);
    for (const one of part.picks) {
      if (raster) {
        const found = reached(one, part.tolerance + part.softness / 2, raster, view);
        const seen = intersect(found.area, sampled!);
        if (isEmpty(seen)) continue;
        unpack(found, seen, raster.area.width, region);
        sampleSmooth(region, raster.area, view, inside);
        clear(region, seen, raster.area.width);
      }
      distance.fill(Infinity);
      nearer(view.space, lab, one.colour, 1, distance);
      const nearest = one.away ? away : near;
      for (let i = 0; i < out.length; i++) {
        if (inside[i] === 0 || distance[i]! >= nearest[i]!) continue;
        nearest[i] = distance[i]!;
        if (!one.away) out[i] = Math.max(out[i]!, inside[i]!);
      }
    }
    for (let i = 0; i < out.length; i++)
      if (out[i]! > 0) out[i] = out[i]! * nearestDecides(near[i]!, away[i]!, part.tolerance, part.softness);
  },

  changedArea: () => null,
  fit(part, fit) {
    for (const one of part.picks) {
      one.x = fit.x(one.x);
      one.y = fit.y(one.y);
    }
  },
  take(part, { colour, x, y }, leaveOut) {
    if (part.picks.length >= 200) part.picks.shift();
    part.picks.push({ x: toTenth(x), y: toTenth(y), colour: [...colour] as Colour, away: leaveOut });
  },
  taken: ({ picks }) => picks,
  narrow(part) {
    part.tolerance = Math.max(0.2, part.tolerance / 2);
    part.softness = Math.max(0.1, part.softness / 2);
  },
  summary: ({ picks }) => `Pick, ${picks.length} ${picks.length === 1 ? 'click' : 'clicks'}`,
};
