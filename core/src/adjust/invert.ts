import { Type } from '@sinclair/typebox';
import type { Adjustment } from './adjustment.ts';
import { strict } from './range.ts';

const schema = Type.Object({}, strict);

/** The negative: 1 - v for every channel. */
export const invert: Adjustment<'invert', Record<string, never>> = {
  kind: 'invert',
  name: 'Invert',
  explains: 'Negative: light becomes dark',
  group: 'A look',
  schema,
  defaults: {},
  controls: [],
  isNeutral: () => false,
  apply(_settings, { r, g, b }, n) {
    for (const plane of [r, g, b]) for (let i = 0; i < n; i++) plane[i] = 1 - plane[i]!;
  },
};
