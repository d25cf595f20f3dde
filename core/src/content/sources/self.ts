import { Type, type Static } from '@sinclair/typebox';
import type { Source } from '../source.ts';

const schema = Type.Object(
  {
    /** How often the picture below is blended over itself. */
    times: Type.Integer({ minimum: 1, maximum: 8 }),
  },
  { additionalProperties: false },
);

/** The picture below, again. */
export const self: Source<'self', Static<typeof schema>> = {
  kind: 'self',
  name: 'Self',
  explains: 'The picture blended over itself: lighter, darker, stronger',
  schema,
  create: () => ({ times: 1 }),
  controls: [{ key: 'times', label: 'Times', step: 1, unit: '' }],
  summary: ({ times }) => `the picture below over itself${times > 1 ? `, ${times} times` : ''}`,
  repeatsBelow: true,
  byColour: () => true,
  times: ({ times }) => times,
  mode: 'multiply',
  draw(_settings, { tile }, backdrop, source, cover) {
    const n = tile.width * tile.height;
    source.r.set(backdrop.r.subarray(0, n));
    source.g.set(backdrop.g.subarray(0, n));
    source.b.set(backdrop.b.subarray(0, n));
    cover.fill(1, 0, n);
  },
};
