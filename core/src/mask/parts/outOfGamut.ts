import { Type, type Static } from '@sinclair/typebox';
import { unit } from '../../base/number.ts';
import { heldIn } from '../../colour/betweenSpaces.ts';
import { beyondGamut, beyondPrint, gamutSchema } from '../../colour/gamut.ts';
import { spaces, srgb } from '../../colour/spaces.ts';
import { RESULT_CONTROL, resultNeeds, resultSchema } from '../ofResult.ts';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';

const schema = partSchema('outOfGamut', {
  /** How far out a colour is covered fully; nearer ones are covered in proportion. */
  full: Type.Number({ minimum: 0.5, maximum: 30 }),
  /** Out of what; left out: a general print on coated paper. */
  gamut: Type.Optional(gamutSchema),
  result: resultSchema,
});
export type OutOfGamutPart = Static<typeof schema>;

/** What the way through a profile and back changes by itself: under 0.6 ΔE00 for nine of ten colours within those of the demo (measured). */
const ROUNDING = 1;

/** How far a colour is covered that comes back this far from itself through a profile, in ΔE00. */
export const coverBeyond = (full: number, beyond: number): number => unit((beyond - ROUNDING) / full);

export const outOfGamut: MaskPartKind<OutOfGamutPart> = {
  kind: 'outOfGamut',
  travels: 'as it is',
  name: 'Out of gamut',
  schema,
  controls: [{ key: 'full', label: 'Full at', step: 0.5, unit: 'ΔE' }, RESULT_CONTROL],
  create: (id, combine) => ({ ...newPart('outOfGamut', id, combine), full: 6, result: true }),
  cover({ full, gamut }, view, out) {
    // What is known of print begins from sRGB.
    const { r, g, b } = heldIn(gamut ? spaces[gamut.space] : srgb, view.space, view.photograph(), out.length);
    if (gamut) {
      const beyond = beyondGamut(gamut);
      for (let i = 0; i < out.length; i++) out[i] = coverBeyond(full, beyond(r[i]!, g[i]!, b[i]!));
    } else for (let i = 0; i < out.length; i++) out[i] = Math.min(1, beyondPrint(r[i]!, g[i]!, b[i]!) / full);
  },
  needs: resultNeeds,
  weight: ({ gamut }) => ({ tables: gamut?.table.length ?? 0 }),
  changedArea: () => null,
  summary: ({ gamut }) => `Out of ${gamut?.name ?? 'print gamut'}`,
};
