import { expand, intersect, union, type Rect } from '@umbo/core/base';
import { findMaskOwner } from '@umbo/core/document';
import type { BenchState } from './benchState';

/** What was found, while the mask is still as it was then. */
export function foundFor({ health, document }: BenchState) {
  return health && findMaskOwner(document, health.layerId)?.where === health.of ? health.found : null;
}

/** So many boxes are outlined at most: more of them would hide what is between. */
const OUTLINED = 40;

/** Boxes with those near each other joined, the largest first, and how many of them are left out. @param near how near, in pixels of the photograph */
export function outlined(boxes: readonly Rect[], near: number): { shown: Rect[]; rest: number } {
  const joined: Rect[] = [];
  for (const box of boxes) {
    let grown = box;
    // A box that grows may reach others.
    for (let i = 0; i < joined.length; i++) {
      const reach = expand(grown, near);
      const hit = intersect(reach, joined[i]!);
      if (hit.width <= 0 || hit.height <= 0) continue;
      grown = union(grown, joined[i]!);
      joined.splice(i, 1);
      i = -1;
    }
    joined.push(grown);
  }
  joined.sort((a, b) => b.width * b.height - a.width * a.height);
  return { shown: joined.slice(0, OUTLINED), rest: Math.max(0, joined.length - OUTLINED) };
}
