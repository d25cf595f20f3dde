import { Type, type Static } from '@sinclair/typebox';
import { newPart, partSchema, type InnerMask, type MaskPartKind } from '../part.ts';

const schema = partSchema('bracket', {
  /** What stands between the brackets: parts of its own, or a link to the mask of a layer. */
  mask: Type.Unsafe<InnerMask>({ $ref: '#/$defs/mask' }),
});
export type BracketPart = Static<typeof schema>;

/** Parts that count as one: a mask within the mask. */
export const bracket: MaskPartKind<BracketPart> = {
  kind: 'bracket',
  travels: 'as it is',
  name: 'Bracket',
  schema,
  controls: [],
  create: (id, combine) => ({ ...newPart('bracket', id, combine), mask: { parts: [], refine: [], strength: 1, invert: false } }),

  cover(part, view, out) {
    const values = view.inner(part.mask);
    for (let i = 0; i < out.length; i++) out[i] = values[i]! / 65535;
  },

  inner: 'mask',
  open: true,
  changedArea: () => ({ x: 0, y: 0, width: 0, height: 0 }),
  summary: ({ mask }) => (mask.link === undefined ? 'Bracket' : 'Mask of a layer'),
};
