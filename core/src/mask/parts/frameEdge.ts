import { Type, type Static } from '@sinclair/typebox';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';
import { project } from '../../base/framing.ts';
import { placesInPicture } from '../../geometry/framing.ts';
import { smoothStep } from '../../base/number.ts';

const percent = Type.Number({ minimum: 0, maximum: 100 });
const schema = partSchema('frameEdge', {
  /** How far the cover reaches inward, in percent of half the picture's shorter side. */
  width: percent,
  /** How much of that is a soft fall, in percent. */
  soft: percent,
  /** From a rectangle (0) to an ellipse (100). */
  round: percent,
});
export type FrameEdgePart = Static<typeof schema>;

export const frameEdge: MaskPartKind<FrameEdgePart> = {
  kind: 'frameEdge',
  travels: 'as it is',
  name: 'Frame edge',
  schema,
  controls: [
    { key: 'width', label: 'Width', step: 1, unit: '%' },
    { key: 'soft', label: 'Softness', step: 1, unit: '%' },
    { key: 'round', label: 'Roundness', step: 1, unit: '%' },
  ],
  create: (id, combine) => ({ ...newPart('frameEdge', id, combine), width: 40, soft: 100, round: 50 }),
  framed: true,
  cover(part, view, out) {
    const { region } = view;
    const { size: picture, toPicture } = placesInPicture(view);
    const full = view.framing?.size ?? view.full;
    const half = Math.min(full.width, full.height) / 2;
    const width = (part.width / 100) * half;
    const fall = Math.max(width * (part.soft / 100), full.width / picture.width);
    const blend = part.round / 100;
    const [cx, cy] = [full.width / 2, full.height / 2];
    const [sx, sy] = [full.width / picture.width, full.height / picture.height];
    for (let y = 0, i = 0; y < region.height; y++) {
      for (let x = 0; x < region.width; x++, i++) {
        const [px, py] = project(toPicture, region.x + x + 0.5, region.y + y + 0.5);
        const [fx, fy] = [px * sx, py * sy];
        const toEdgeY = Math.min(fy, full.height - fy);
        const v = (fy - cy) / cy;
        const straight = Math.min(toEdgeY, fx, full.width - fx);
        const u = (fx - cx) / cx;
        const curved = (1 - Math.sqrt(u * u + v * v)) * half;
        const t = (width - (straight + (curved - straight) * blend)) / fall;
        out[i] = smoothStep(t);
      }
    }
  },
  changedArea: () => null,
  summary: () => 'Frame edge',
};
