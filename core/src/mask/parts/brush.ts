import { Type, type Static } from '@sinclair/typebox';
import { newPart, partSchema, type InnerMask, type MaskPartKind } from '../part.ts';
import { paint } from '../painting.ts';
import { alikeFor, fitStrokes, seenByStrokes, strokeNeeds, strokesChange, strokeSchema, weightOfStrokes } from '../stroke.ts';

const schema = partSchema('brush', {
  start: Type.Union([Type.Literal('empty'), Type.Literal('full')]),
  strokes: Type.Array(strokeSchema, { maxItems: 5000 }),
  /** A mask that the strokes are painted through; left out: they cover where they go. */
  through: Type.Optional(Type.Unsafe<InnerMask>({ $ref: '#/$defs/mask' })),
});
export type BrushPart = Static<typeof schema>;

export const brush: MaskPartKind<BrushPart> = {
  kind: 'brush',
  travels: 'to be checked',
  drawn: true,
  strokes: 'cover',
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
        alike: (stroke, area) => alikeFor(stroke, area, view),
        seen: seenByStrokes(part.strokes, view),
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
  needs: ({ strokes }) => strokeNeeds(strokes),
  changedArea: (before, after) => (before.start === after.start ? strokesChange(before.strokes, after.strokes) : null),
  weight: ({ strokes }) => weightOfStrokes(strokes),
  fit: (part, fit) => fitStrokes(part.strokes, fit),
  summary: (part) => `Brush, ${part.strokes.length} ${part.strokes.length === 1 ? 'stroke' : 'strokes'}`,
};
