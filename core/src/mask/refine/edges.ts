import { Type, type Static } from '@sinclair/typebox';
import { guidedFilter } from '../../filter/guided.ts';
import { refineSchema, type RefineKind } from '../refine.ts';

const schema = refineSchema('edges', {
  /** How far around an edge the photograph is looked at, in pixels of the full photograph. */
  radius: Type.Number({ minimum: 1, maximum: 200 }),
  /** How much unevenness of the photograph is overlooked, in percent: little follows every hair, much smooths. */
  overlook: Type.Number({ minimum: 0, maximum: 100 }),
});
export type EdgeRefine = Static<typeof schema>;

/** From 1e-6 to 1e-1, in equal ratios. */
const epsilonOf = ({ overlook }: EdgeRefine): number => Math.pow(10, overlook / 20 - 6);
const radiusAt = (step: EdgeRefine, scale: number): number => Math.max(1, Math.round(step.radius * scale));

/** Brings the mask's edges to those of the photograph. */
export const edges: RefineKind<EdgeRefine> = {
  kind: 'edges',
  name: 'Follow edges',
  schema,
  controls: [
    { key: 'radius', label: 'Radius', step: 1, unit: 'px', usual: [1, 80] },
    { key: 'overlook', label: 'Overlook', step: 1, unit: '%' },
  ],
  create: () => ({ kind: 'edges', radius: 12, overlook: 40 }),
  reach: (step, scale) => 2 * radiusAt(step, scale),
  fit: (step, fit) => void (step.radius = Math.max(1, Math.min(200, fit.size(step.radius)))),
  apply(step, scale, plane, view) {
    const { width, height } = view.region;
    guidedFilter(plane, view.photograph(), width, height, radiusAt(step, scale), epsilonOf(step));
  },
};
