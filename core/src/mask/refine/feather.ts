import { Type, type Static } from '@sinclair/typebox';
import { gaussianBlur, gaussianReach } from '../../filter/gaussian.ts';
import { refineSchema, type RefineKind } from '../refine.ts';

const schema = refineSchema('feather', {
  /** Pixels of the full photograph over which an edge softens to either side: two standard deviations. */
  radius: Type.Number({ minimum: 0, maximum: 1000 }),
  /** On which side of the edge; left out: on both. */
  side: Type.Optional(Type.Union([Type.Literal('both'), Type.Literal('inward'), Type.Literal('outward')])),
});
export type Feather = Static<typeof schema>;

/**
 * Feathering to one side keeps the other as it is. At a straight edge the blurred mask is at one half: twice what is above that falls
 * from full to nothing inside the edge, twice what is below it outside.
 */
export const feather: RefineKind<Feather> = {
  kind: 'feather',
  name: 'Feather',
  schema,
  controls: [
    { key: 'radius', label: 'Feather', step: 1, unit: 'px', usual: [0, 300] },
    {
      key: 'side',
      label: 'Side',
      options: [
        ['both', 'Both'],
        ['inward', 'Inward'],
        ['outward', 'Outward'],
      ],
    },
  ],
  create: () => ({ kind: 'feather', radius: 10 }),
  reach: (step, scale) => gaussianReach((step.radius / 2) * scale),
  fit: (step, fit) => void (step.radius = Math.min(1000, fit.size(step.radius))),
  apply(step, scale, plane, { region: { width, height } }) {
    const sigma = (step.radius / 2) * scale;
    if (step.side === undefined || step.side === 'both') return gaussianBlur(plane, width, height, sigma);
    const blurred = plane.slice();
    gaussianBlur(blurred, width, height, sigma);
    for (let i = 0; i < plane.length; i++) {
      const twice = 2 * blurred[i]!;
      plane[i] = step.side === 'inward' ? Math.min(plane[i]!, Math.max(0, twice - 65535)) : Math.max(plane[i]!, Math.min(65535, twice));
    }
  },
};
