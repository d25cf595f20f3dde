import { Type, type Static } from '@sinclair/typebox';
import { islands } from '../islands.ts';
import { refineSchema, type RefineKind } from '../refine.ts';

const extent = Type.Number({ minimum: 0, maximum: 300 });
const schema = refineSchema('clean', {
  /** Islands that fit into a square of this side are dropped, holes that do are filled; in pixels of the full photograph. */
  islands: extent,
  holes: extent,
});
export type Clean = Static<typeof schema>;

/** Values at which the mask is cut; an island above one of them is lowered to it, above the lowest to nothing. */
const LEVELS = [0.02, 0.2, 0.4, 0.6, 0.8].map((v) => Math.round(v * 65535));

/**
 * Lowers what stands out as a small island at any level: an opening by attributes (Breen & Jones 1996), with the greater side of the
 * island's box as the attribute. An island that is small enough lies within its own size of any of its pixels, which bounds the reach.
 */
function dropIslands(plane: Uint16Array, width: number, height: number, side: number, diagonal: boolean): void {
  for (const [k, level] of LEVELS.entries()) {
    const { labels, boxes } = islands(plane, width, height, level, diagonal);
    const small = boxes.map((box) => Math.max(box.width, box.height) <= side);
    const to = k === 0 ? 0 : level;
    for (let i = 0; i < plane.length; i++) if (labels[i]! > 0 && small[labels[i]! - 1]) plane[i] = to;
  }
}

export const clean: RefineKind<Clean> = {
  kind: 'clean',
  name: 'Clean',
  schema,
  controls: [
    { key: 'islands', label: 'Islands up to', step: 1, unit: 'px', usual: [0, 120] },
    { key: 'holes', label: 'Holes up to', step: 1, unit: 'px', usual: [0, 120] },
  ],
  create: () => ({ kind: 'clean', islands: 12, holes: 12 }),
  reach: (step, scale) => Math.ceil(Math.max(step.islands, step.holes) * scale) + 1,
  fit(step, fit) {
    step.islands = Math.min(300, fit.size(step.islands));
    step.holes = Math.min(300, fit.size(step.holes));
  },
  apply(step, scale, plane, { region: { width, height } }) {
    if (step.islands > 0) dropIslands(plane, width, height, step.islands * scale, true);
    if (step.holes <= 0) return;
    for (let i = 0; i < plane.length; i++) plane[i] = 65535 - plane[i]!;
    dropIslands(plane, width, height, step.holes * scale, false);
    for (let i = 0; i < plane.length; i++) plane[i] = 65535 - plane[i]!;
  },
};
