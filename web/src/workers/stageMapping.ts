import { composed, inverse, scaling, shift, type Matrix } from '@umbo/core/base';
import type { View } from './protocol';

const made = new WeakMap<View, { toStage: Matrix; toPhotograph: Matrix }>();

/** How the photograph lies on the stage, in device pixels. */
export function stageMapping(view: View): { toStage: Matrix; toPhotograph: Matrix } {
  let known = made.get(view);
  if (!known) {
    const { x, y, zoom, framing } = view;
    const toStage = composed(...(framing ? [framing.toPicture] : []), scaling(zoom, zoom), shift(x, y));
    made.set(view, (known = { toStage, toPhotograph: inverse(toStage) }));
  }
  return known;
}
