import { Type, type Static } from '@sinclair/typebox';
import { madeOnce } from '../../base/madeOnce.ts';
import type { ColourSpace } from '../../base/space.ts';
import { OVERVIEW } from '../../base/need.ts';
import { clamp, smoothStep } from '../../base/number.ts';
import { createPlanes, readRaster, type Raster } from '../../base/planes.ts';
import { guideLines, type GuideLines } from '../../filter/fastGuided.ts';
import { wholeOf, type Size } from '../../base/geometry.ts';
import { grow } from '../growing.ts';
import { overviewOklab, sampleSmooth } from '../overview.ts';
import { newPart, partSchema, type MaskPartKind, type MaskView } from '../part.ts';
import { drawStroke, fitStrokes, strokeSchema, weightOfStrokes, type Stroke } from '../stroke.ts';

const schema = partSchema('grown', {
  /** Strokes over what belongs to it, and (those that erase) over what does not. */
  strokes: Type.Array(strokeSchema, { maxItems: 400 }),
});
export type GrownPart = Static<typeof schema>;

/** Longer side, about, of the grid that is walked on. */
const SIDE = 480;
/** And of the picture along whose edges it is followed, from which its own colours lead on. */
const GUIDE_SIDE = 900;
/** How thin a stroke is on it at least, in its pixels. */
const THINNEST = 1.5;
/** What is this unsure counts as nothing, or as all. */
const UNSURE = 0.15;
/** How much variance of the photograph is overlooked along the edges. */
const EPSILON = 1e-4;

/** What was grown: lines over the colours of a picture of that size. */
interface Grown {
  readonly lines: GuideLines;
  readonly size: Size;
}

/** Of each photograph that is looked at: what its overview makes of strokes, kept as long as those are. */
const growths = new WeakMap<Raster, (strokes: readonly Stroke[]) => Grown | null>();
function growthOf({ space, full, overview }: MaskView): (strokes: readonly Stroke[]) => Grown | null {
  const raster = overview();
  let known = growths.get(raster);
  if (!known) growths.set(raster, (known = madeOnce((strokes) => growOn(raster, space, full, strokes))));
  return known;
}

/** @returns null while one of the sides is missing */
function growOn(raster: Raster, space: ColourSpace, full: Size, strokes: readonly Stroke[]): Grown | null {
  const { area } = raster;
  const walked = smallerBy(area, SIDE);
  const seeds = seedsOf(strokes, walked.size, full);
  if (!seeds.includes(1) || !seeds.includes(-1)) return null;
  const { l, a, b } = overviewOklab(space, raster);
  const lab = { l: reduced(l, area, walked), a: reduced(a, area, walked), b: reduced(b, area, walked) };
  const belongs = grow(lab, walked.size, seeds);
  const planes = createPlanes(area.width * area.height);
  readRaster(raster, area, planes);
  const guide = smallerBy(area, GUIDE_SIDE);
  const { size } = guide;
  const colours = [reduced(planes.r, area, guide), reduced(planes.g, area, guide), reduced(planes.b, area, guide)] as const;
  const radius = Math.round((2 * walked.by) / guide.by) + 1;
  return { lines: guideLines(colours, size.width, size.height, radius, EPSILON)(enlarged(belongs, walked.size, size)), size };
}

/** What strokes say of the pixels of a grid: 1 inside, -1 outside; a later one counts. */
function seedsOf(strokes: readonly Stroke[], picture: Size, full: Size): Int8Array {
  const seeds = new Int8Array(picture.width * picture.height);
  // However thin a stroke is, the pixels under it count.
  const least = (THINNEST * full.width) / picture.width;
  for (const { size, ...stroke } of strokes)
    drawStroke(
      { ...stroke, size: Math.max(size, least), hardness: 1, flow: 1, opacity: 1 },
      { picture, full, region: wholeOf(picture) },
      null,
      (at, cover) => {
        for (let i = 0; i < cover.length; i++) if (cover[i]! > 0.5) seeds[at + i] = stroke.erase ? -1 : 1;
      },
    );
  return seeds;
}

interface Smaller {
  readonly by: number;
  readonly size: Size;
}
function smallerBy({ width, height }: Size, side: number): Smaller {
  const by = Math.max(1, Math.round(Math.max(width, height) / side));
  return { by, size: { width: Math.floor(width / by), height: Math.floor(height / by) } };
}

function reduced(plane: Float32Array, { width }: Size, { by, size }: Smaller): Float32Array {
  if (by === 1) return plane;
  const out = new Float32Array(size.width * size.height);
  for (let y = 0, i = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++, i++) {
      let sum = 0;
      for (let v = 0, k = y * by * width + x * by; v < by; v++, k += width) for (let u = 0; u < by; u++) sum += plane[k + u]!;
      out[i] = sum / (by * by);
    }
  return out;
}

/** What belongs clearly all of it, what hardly does nothing; between the pixels of the smaller grid. */
function enlarged(small: Float32Array, from: Size, to: Size): Float32Array {
  const out = new Float32Array(to.width * to.height);
  for (let y = 0, i = 0; y < to.height; y++) {
    const v = clamp(((y + 0.5) * from.height) / to.height - 0.5, 0, from.height - 1);
    const [top, bottom] = [(v | 0) * from.width, Math.min(from.height - 1, (v | 0) + 1) * from.width];
    for (let x = 0; x < to.width; x++, i++) {
      const u = clamp(((x + 0.5) * from.width) / to.width - 0.5, 0, from.width - 1);
      const u0 = u | 0;
      const u1 = Math.min(from.width - 1, u0 + 1);
      const upper = small[top + u0]! + (small[top + u1]! - small[top + u0]!) * (u - u0);
      const lower = small[bottom + u0]! + (small[bottom + u1]! - small[bottom + u0]!) * (u - u0);
      out[i] = smoothStep((upper + (lower - upper) * (v - (v | 0)) - UNSURE) / (1 - 2 * UNSURE));
    }
  }
  return out;
}

/** A thing grown from strokes inside and outside it, followed to its edges. */
export const grown: MaskPartKind<GrownPart> = {
  kind: 'grown',
  travels: 'to be checked',
  drawn: true,
  strokes: 'seeds',
  tool: 'paint',
  name: 'Grow',
  schema,
  controls: [],
  create: (id, combine) => ({ ...newPart('grown', id, combine), strokes: [] }),
  needs: ({ strokes }) => (strokes.length > 0 ? [OVERVIEW] : []),

  cover({ strokes }, view, out) {
    out.fill(0);
    const known = strokes.length > 0 ? growthOf(view)(strokes) : null;
    if (!known) return;
    const { r, g, b } = view.photograph();
    const line = new Float32Array(out.length);
    for (const [k, colours] of [r, g, b, null].entries()) {
      sampleSmooth(known.lines[k]!, known.size, view, line);
      for (let i = 0; i < out.length; i++) out[i] = out[i]! + line[i]! * (colours ? colours[i]! : 1);
    }
    for (let i = 0; i < out.length; i++) out[i] = clamp(out[i]!, 0, 1);
  },

  changedArea: () => null,
  weight: ({ strokes }) => weightOfStrokes(strokes),
  fit: (part, fit) => fitStrokes(part.strokes, fit),
  summary({ strokes }) {
    const outside = strokes.filter(({ erase }) => erase).length;
    return `Grown, ${strokes.length - outside} inside, ${outside} outside`;
  },
};
