/** Moving what of a mask has a place on the photograph. */
import { eachMask, maskPartKind, type MaskPart, type Mask } from './registry.ts';

/** A shift in pixels of the full photograph, after a scaling about a point. */
export interface RegionMove {
  readonly dx: number;
  readonly dy: number;
  readonly scale: number;
  readonly about: { readonly x: number; readonly y: number };
}

/** Whether anything of a mask has a place that could be moved. */
export const hasPlace = (mask: Mask): boolean =>
  Array.from(eachMask(mask)).some(({ parts }) => parts.some((part) => maskPartKind(part.kind).fit !== undefined));

/**
 * Moves the parts of a mask that have a place, in place.
 * @param only the one part that is moved; null: all that have a place
 * @param copies gives the id of a moved copy of a part, which is added while the part itself stays; null moves the parts themselves
 */
export function moveRegion(
  mask: Mask,
  { dx, dy, scale, about }: RegionMove,
  only: string | null,
  copies: ((id: string) => string) | null,
): void {
  const fit = {
    x: (v: number) => about.x + (v - about.x) * scale + dx,
    y: (v: number) => about.y + (v - about.y) * scale + dy,
    size: (v: number) => v * scale,
  };
  const all = Array.from(eachMask(mask)).flatMap(({ parts }) => parts.map((part) => ({ parts, part })));
  for (const { parts, part } of all) {
    const kind = maskPartKind(part.kind);
    if (!kind.fit || (only !== null && part.id !== only)) continue;
    if (!copies) {
      kind.fit(part, fit);
      continue;
    }
    // Through JSON: inside an edit the part is a draft, which cannot be cloned otherwise.
    const copy = JSON.parse(JSON.stringify(part)) as MaskPart;
    copy.id = copies(part.id);
    if (copy.combine === 'common') copy.combine = 'add';
    kind.fit(copy, fit);
    parts.push(copy);
  }
}
