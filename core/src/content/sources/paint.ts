import { madeOnce } from '../../base/madeOnce.ts';
import { Type, type Static } from '@sinclair/typebox';
import { colourSchema, type Colour } from '../../colour/colour.ts';
import { paint as paintStrokes } from '../../mask/painting.ts';
import { alikeFor, fitStrokes, strokeNeeds, strokesChange, strokeSchema, weightOfStrokes } from '../../mask/stroke.ts';
import { createOwnRaster, readOwnRaster } from '../../base/ownRaster.ts';
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
  schema,
  create: () => ({ strokes: [] }),
  controls: [],
  colours: coloursOnce,
  summary: ({ strokes }) => `${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}`,
  draw: (_settings, { raster, tile }, _below, own, cover) => readOwnRaster(raster!, tile, own, cover),
  raster: {
    render({ strokes }, view) {
      const { region } = view;
      const n = region.width * region.height;
      const [r, g, b, a] = paintStrokes(
        { strokes, blank: [0, 0, 0, 0], alike: (stroke, area) => alikeFor(stroke, area, view), lay },
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
