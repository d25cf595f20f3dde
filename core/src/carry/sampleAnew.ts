/** Parts that took the colours of a region take those that the region has on this photograph. */
import { produce } from 'immer';
import type { Scale } from '../base/geometry.ts';
import { withOverview, type Pictures } from '../base/pictures.ts';
import type { Raster } from '../base/planes.ts';
import type { Colour } from '../colour/colour.ts';
import { findResolved, resolveLayers } from '../document/resolve.ts';
import { findMaskOwner } from '../document/tree.ts';
import type { UmboDocument } from '../document/types.ts';
import { eachMask, maskPartKind, sampledFrom } from '../mask/registry.ts';
import { coversAll } from '../mask/mask.ts';
import { ownColours } from '../measure/ownColours.ts';
import { findMask } from '../render/backdrop.ts';

/**
 * @param photograph all of it, at the level of the overview
 * @param owners in whose masks colours are taken anew; from regions that catch nothing none are
 */
export function sampleAnew(
  document: UmboDocument,
  scale: Scale,
  photograph: Raster,
  pictures: Pictures,
  owners: readonly string[],
): UmboDocument {
  const known = withOverview(pictures, photograph);
  const coloursOf = (region: string): Colour[] => {
    const node = findResolved(resolveLayers(document), region);
    if (!node) return [];
    const weight = coversAll(node.where) ? null : findMask(document, node, scale, photograph.area, photograph, known);
    return distinct(ownColours.measure({}, { picture: photograph, weight, scale }).colours);
  };
  return produce(document, (draft) => {
    for (const id of owners) {
      const where = findMaskOwner(draft, id)?.where;
      for (const { parts } of where ? eachMask(where) : [])
        for (const part of parts) {
          const from = sampledFrom(part);
          const colours = from === undefined ? [] : coloursOf(from);
          if (colours.length > 0) maskPartKind(part.kind).takeAll?.(part, colours, from!);
        }
    }
  });
}

/** Without those that are the same as the one before. */
export const distinct = (colours: readonly Colour[]): Colour[] =>
  colours.filter((colour, i) => i === 0 || colour.join() !== colours[i - 1]!.join());
