import { Type, type Static } from '@sinclair/typebox';
import type { Rect } from '../../base/geometry.ts';
import { OVERVIEW } from '../../base/need.ts';
import { overviewOklab } from '../overview.ts';
import { newPart, partSchema, type InnerMask, type MaskPartKind, type MaskView } from '../part.ts';
import { paint } from '../painting.ts';
import { fitStrokes, strokesChange, strokeSchema, weightOfStrokes, type Alike } from '../stroke.ts';

const maskStroke = Type.Composite(
  [
    strokeSchema,
    Type.Object({
      /** A dab takes only what is this like the pixel under its centre, in deltaEOK2 times 100; left out: everything. */
      alike: Type.Optional(Type.Number({ minimum: 0.5, maximum: 60 })),
    }),
  ],
  { additionalProperties: false },
);
export type MaskStroke = Static<typeof maskStroke>;

const schema = partSchema('brush', {
  start: Type.Union([Type.Literal('empty'), Type.Literal('full')]),
  strokes: Type.Array(maskStroke, { maxItems: 5000 }),
  /** A mask that the strokes are painted through; left out: they cover where they go. */
  through: Type.Optional(Type.Unsafe<InnerMask>({ $ref: '#/$defs/mask' })),
});
export type BrushPart = Static<typeof schema>;

function alikeIn(view: MaskView, area: Rect, tolerance: number): Alike | undefined {
  const lab = area === view.region ? view.oklab() : view.oklabOf(area);
  if (!lab) return undefined;
  const overview = view.overview();
  return { lab, overview: overviewOklab(view.space, overview), size: overview.area, tolerance };
}

export const brush: MaskPartKind<BrushPart> = {
  kind: 'brush',
  drawn: true,
  tool: 'paint',
  name: 'Brush',
  schema,
  controls: [],
  create: (id, combine) => ({ ...newPart('brush', id, combine), start: 'empty', strokes: [] }),

  cover(part, view, out) {
    const [painted] = paint(
      {
        strokes: part.strokes,
        blank: [part.start === 'full' ? 1 : 0],
        alike: (stroke, area) => (stroke.alike === undefined ? null : alikeIn(view, area, stroke.alike)),
        lay(stroke, [plane], at, cover) {
          for (let x = 0, o = at; x < cover.length; x++, o++)
            plane![o] = stroke.erase ? plane![o]! * (1 - cover[x]!) : plane![o]! + (1 - plane![o]!) * cover[x]!;
        },
      },
      view,
    );
    out.set(painted!);
    if (!part.through) return;
    const through = view.inner(part.through);
    for (let i = 0; i < out.length; i++) out[i] = (out[i]! * through[i]!) / 65535;
  },

  inner: 'through',
  needs: ({ strokes }) => (strokes.some(({ alike }) => alike !== undefined) ? [OVERVIEW] : []),
  changedArea: (before, after) => (before.start === after.start ? strokesChange(before.strokes, after.strokes) : null),
  weight: ({ strokes }) => weightOfStrokes(strokes),
  fit: (part, fit) => fitStrokes(part.strokes, fit),
  summary: (part) => `Brush, ${part.strokes.length} ${part.strokes.length === 1 ? 'stroke' : 'strokes'}`,
};
