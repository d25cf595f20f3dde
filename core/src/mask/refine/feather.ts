import { Type, type Static } from '@sinclair/typebox';
import { gaussianBlur, gaussianReach } from '../gaussian.ts';
import type { RefineKind } from '../refine.ts';

const schema = Type.Object(
  {
    kind: Type.Literal('feather'),
    /** Pixels of the full photograph over which an edge softens to either side: two standard deviations. */
    radius: Type.Number({ minimum: 0, maximum: 1000 }),
  },
  { additionalProperties: false },
);
export type Feather = Static<typeof schema>;

export const feather: RefineKind<Feather> = {
  kind: 'feather',
  name: 'Feather',
  schema,
  reach: (step, scale) => gaussianReach((step.radius / 2) * scale),
  fit: (step, fit) => void (step.radius = Math.min(1000, fit.size(step.radius))),
  apply: (step, scale, plane, width, height) => gaussianBlur(plane, width, height, (step.radius / 2) * scale),
};
