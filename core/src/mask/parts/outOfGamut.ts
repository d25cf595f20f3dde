import { Type, type Static } from '@sinclair/typebox';
import { inSrgb } from '../../colour/betweenSpaces.ts';
import { beyondPrint } from '../../colour/gamut.ts';
import { RESULT_CONTROL, resultNeeds, resultSchema } from '../ofResult.ts';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';

const schema = partSchema('outOfGamut', {
  /** How far out a colour is covered fully; nearer ones are covered in proportion. */
  full: Type.Number({ minimum: 0.5, maximum: 30 }),
  result: resultSchema,
});
export type OutOfGamutPart = Static<typeof schema>;

export const outOfGamut: MaskPartKind<OutOfGamutPart> = {
  kind: 'outOfGamut',
  travels: 'as it is',
  name: 'Out of print gamut',
  schema,
  controls: [{ key: 'full', label: 'Full at', step: 0.5, unit: 'ΔE' }, RESULT_CONTROL],
  create: (id, combine) => ({ ...newPart('outOfGamut', id, combine), full: 6, result: true }),
  cover(part, view, out) {
    // Print is known from sRGB on.
    const { r, g, b } = inSrgb(view.space, view.photograph(), out.length);
    const scale = 1 / part.full;
    for (let i = 0; i < out.length; i++) {
      const v = beyondPrint(r[i]!, g[i]!, b[i]!) * scale;
      out[i] = v < 1 ? v : 1;
    }
  },
  needs: resultNeeds,
  changedArea: () => null,
  summary: () => 'Out of print gamut',
};
