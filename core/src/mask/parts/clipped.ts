import { Type, type Static } from '@sinclair/typebox';
import { RESULT_CONTROL, resultNeeds, resultSchema } from '../ofResult.ts';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';

const schema = partSchema('clipped', {
  ends: Type.Union([Type.Literal('both'), Type.Literal('highlights'), Type.Literal('shadows')]),
  /** Distance from the end of the scale, in percent, within which a channel counts as clipped; softened over as much again. */
  margin: Type.Number({ minimum: 0.1, maximum: 20 }),
  /** Whether one clipped channel is enough, or all three must be. */
  channels: Type.Union([Type.Literal('any'), Type.Literal('all')]),
  result: resultSchema,
});
export type ClippedPart = Static<typeof schema>;

export const clipped: MaskPartKind<ClippedPart> = {
  kind: 'clipped',
  travels: 'as it is',
  name: 'Clipped tones',
  schema,
  controls: [
    {
      key: 'ends',
      label: 'Ends',
      options: [
        ['both', 'Both'],
        ['highlights', 'Lights'],
        ['shadows', 'Darks'],
      ],
    },
    {
      key: 'channels',
      label: 'Channels',
      options: [
        ['any', 'Any'],
        ['all', 'All three'],
      ],
    },
    { key: 'margin', label: 'Margin', step: 0.5, unit: '%' },
    RESULT_CONTROL,
  ],
  create: (id, combine) => ({ ...newPart('clipped', id, combine), ends: 'both', margin: 1, channels: 'any', result: true }),
  cover(part, view, out) {
    const { r, g, b } = view.photograph();
    const margin = part.margin / 100;
    const high = part.ends !== 'shadows';
    const low = part.ends !== 'highlights';
    const near = (distance: number): number => {
      const t = (2 * margin - distance) / margin;
      return t > 0 ? (t < 1 ? t : 1) : 0;
    };
    const join = part.channels === 'any' ? Math.max : Math.min;
    for (let i = 0; i < out.length; i++) {
      const [x, y, z] = [r[i]!, g[i]!, b[i]!];
      const light = high ? join(near(1 - x), near(1 - y), near(1 - z)) : 0;
      const dark = low ? join(near(x), near(y), near(z)) : 0;
      out[i] = light > dark ? light : dark;
    }
  },
  needs: resultNeeds,
  changedArea: () => null,
  summary: ({ ends }) => ({ both: 'Clipped tones', highlights: 'Clipped lights', shadows: 'Clipped darks' })[ends],
};
