import { madeOnce } from '../../base/madeOnce.ts';
import { Type, type Static } from '@sinclair/typebox';
import { clamp } from '../../base/number.ts';
import { oklabToRgb, rgbToOklch } from '../../colour/oklab.ts';
import { colourSchema, type Colour } from '../../colour/colour.ts';
import { paint as paintStrokes } from '../../mask/painting.ts';
import { alikeFor, fitStrokes, seenByStrokes, strokeNeeds, strokesChange, strokeSchema, weightOfStrokes } from '../../mask/stroke.ts';
import { createOwnRaster, readSourceRaster } from '../../base/sourceRaster.ts';
import type { Source } from '../source.ts';

const colouredStroke = Type.Composite([strokeSchema, Type.Object({ colour: colourSchema })], { additionalProperties: false });
export type ColouredStroke = Static<typeof colouredStroke>;

const schema = Type.Object({ strokes: Type.Array(colouredStroke, { maxItems: 5000 }) }, { additionalProperties: false });
export type PaintSettings = Static<typeof schema>;

/** The colours of the strokes that are left, each once, the last used first. */
export function coloursOf({ strokes }: PaintSettings): Colour[] {
  const texts = new Set([...strokes].reverse().flatMap(({ erase, colour }) => (erase ? [] : [colour.join()])));
  return [...texts].map((text) => text.split(',').map(Number) as Colour);
}

const coloursOnce = madeOnce((settings: PaintSettings) => coloursOf(settings));

/** Changes settings in place: what was painted in one colour is in another. */
export function swapColour(settings: PaintSettings, from: Colour, to: Colour): void {
  for (const stroke of settings.strokes) if (stroke.colour.join() === from.join()) stroke.colour = [...to];
}

/** The topmost colour that was painted at a place, in pixels of the full photograph. */
function colourAt({ strokes }: PaintSettings, x: number, y: number): Colour | null {
  const found = strokes.findLast(({ erase, size, points }) => !erase && distanceTo(points, x, y) <= size / 2);
  return found ? [...found.colour] : null;
}

/** How far a place is from the nearest of the points of a stroke, or of the lines between them. */
function distanceTo(points: readonly number[], x: number, y: number): number {
  let least = Infinity;
  for (let i = 0; i + 2 < points.length; i += 3) {
    const j = Math.max(0, i - 3);
    const [dx, dy] = [points[i]! - points[j]!, points[i + 1]! - points[j + 1]!];
    const length2 = dx * dx + dy * dy;
    const t = length2 > 0 ? clamp(((x - points[j]!) * dx + (y - points[j + 1]!) * dy) / length2, 0, 1) : 0;
    least = Math.min(least, Math.hypot(x - points[j]! - t * dx, y - points[j + 1]! - t * dy));
  }
  return least;
}

/** How far a pull of the whole way changes a colour, in OKLCh. */
const PULLS = { hue: 180, chroma: 0.3, lightness: 1 } as const;

/** Source-over (W3C Compositing, section 9.1), colours not premultiplied. */
function lay(stroke: ColouredStroke, [r, g, b, a]: readonly Float32Array[], at: number, cover: Float32Array): void {
  const [cr, cg, cb] = stroke.colour;
  for (let x = 0, i = at; x < cover.length; x++, i++) {
    const amount = cover[x]!;
    if (amount === 0) continue;
    if (stroke.erase) {
      a![i] = a![i]! * (1 - amount);
      continue;
    }
    const under = a![i]! * (1 - amount);
    const total = amount + under;
    r![i] = (cr * amount + r![i]! * under) / total;
    g![i] = (cg * amount + g![i]! * under) / total;
    b![i] = (cb * amount + b![i]! * under) / total;
    a![i] = total;
  }
}

/** Strokes with colours of their own. */
export const paint: Source<'paint', PaintSettings> = {
  kind: 'paint',
  tool: 'paint',
  name: 'Paint',
  explains: 'Colours painted by hand',
  schema,
  create: () => ({ strokes: [] }),
  controls: [],
  colours: coloursOnce,
  pull: {
    qualities: [
      ['hue', 'Hue'],
      ['chroma', 'Chroma'],
      ['lightness', 'Lightness'],
    ],
    colourAt,
    drag(settings, colour, quality, by, space) {
      const { l, c, h } = rgbToOklch(space, ...colour);
      const way = by * PULLS[quality as keyof typeof PULLS];
      const next = {
        l: clamp(quality === 'lightness' ? l + way : l, 0, 1),
        c: Math.max(0, quality === 'chroma' ? c + way : c),
        h: ((quality === 'hue' ? h + way : h) * Math.PI) / 180,
      };
      const rgb = new Float64Array(3);
      oklabToRgb(space, next.l, next.c * Math.cos(next.h), next.c * Math.sin(next.h), rgb);
      swapColour(settings, colour, Array.from(rgb, (v) => clamp(v, 0, 1)) as unknown as Colour);
      return `Painted ${quality} ${way > 0 ? '+' : '−'}${Math.abs(quality === 'hue' ? Math.round(way) : Math.round(way * 100))}`;
    },
  },
  summary: ({ strokes }) => `${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}`,
  draw: (_settings, { raster, tile }, _backdrop, source, cover) => readSourceRaster(raster!, tile, source, cover),
  raster: {
    render({ strokes }, view) {
      const { region } = view;
      const n = region.width * region.height;
      const [r, g, b, a] = paintStrokes(
        { strokes, blank: [0, 0, 0, 0], alike: (stroke, area) => alikeFor(stroke, area, view), seen: seenByStrokes(strokes, view), lay },
        view,
      ) as [Float32Array, Float32Array, Float32Array, Float32Array];
      const out = createOwnRaster(region);
      for (let i = 0; i < n; i++) {
        out.r[i] = r[i]! * 65535 + 0.5;
        out.g[i] = g[i]! * 65535 + 0.5;
        out.b[i] = b[i]! * 65535 + 0.5;
        out.a[i] = a[i]! * 65535 + 0.5;
      }
      return out;
    },
    changedArea: (before, after) => strokesChange(before.strokes, after.strokes),
  },
  needs: ({ strokes }) => strokeNeeds(strokes),
  weight: ({ strokes }) => weightOfStrokes(strokes),
  fit: (settings, fit) => fitStrokes(settings.strokes, fit),
};
