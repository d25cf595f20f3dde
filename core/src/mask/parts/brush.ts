import { Type, type Static } from '@sinclair/typebox';
import { partSchema, type MaskPartKind } from '../part.ts';
import { drawStroke, fitStrokes, strokesChange, strokeSchema } from '../stroke.ts';

const schema = partSchema('brush', {
  start: Type.Union([Type.Literal('empty'), Type.Literal('full')]),
  strokes: Type.Array(strokeSchema, { maxItems: 5000 }),
});
export type BrushPart = Static<typeof schema>;

export const brush: MaskPartKind<BrushPart> = {
  kind: 'brush',
  name: 'Brush',
  schema,
  controls: [
    {
      key: 'start',
      label: 'Begin with',
      options: [
        ['empty', 'Empty mask'],
        ['full', 'Full mask'],
      ],
    },
  ],
  create: (id, combine) => ({ id, kind: 'brush', on: true, invert: false, combine, start: 'empty', strokes: [] }),

  cover(part, view, out) {
    out.fill(part.start === 'full' ? 1 : 0);
    for (const stroke of part.strokes)
      drawStroke(stroke, view, (at, cover) => {
        for (let x = 0, o = at; x < cover.length; x++, o++)
          out[o] = stroke.erase ? out[o]! * (1 - cover[x]!) : out[o]! + (1 - out[o]!) * cover[x]!;
      });
  },

  changedArea: (before, after) => (before.start === after.start ? strokesChange(before.strokes, after.strokes) : null),
  fit: (part, fit) => fitStrokes(part.strokes, fit),
  summary: (part) => `Brush, ${part.strokes.length} ${part.strokes.length === 1 ? 'stroke' : 'strokes'}`,
};
