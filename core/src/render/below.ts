/** The picture below a layer, for masks that look at it instead of the photograph. */
import { peekAt, resolvedBelow, resolveLayers, type ResolvedLayer } from '../document/resolve.ts';
import type { Mask, UmboDocument } from '../document/types.ts';
import { readsBelow, type Scale } from '../mask/mask.ts';
import { wholeOf, type Rect, type Size } from './geometry.ts';
import { renderRegion } from './layers.ts';
import type { Pictures } from './pictures.ts';
import { createPlanes, createRaster, writeRaster, type Planes, type Raster } from './planes.ts';

/** The document that shows what is below a layer. */
export const documentBelow = (document: UmboDocument, layerId: string): UmboDocument => ({
  ...peekAt(document, { solo: null, upTo: null, below: layerId }),
  strength: 1,
});

/** Overviews of what is below layers: the last few, each with the layers it came from. */
const kept: { of: readonly ResolvedLayer[]; photograph: Raster; raster: Raster }[] = [];
const KEPT = 6;

/**
 * What a mask looks at, with the picture below its layer where it looks at that.
 * @param owner the layer whose mask it is; a linked mask looks at what is below its owner
 * @param photograph at this scale, reaching as far as the layers below need
 */
export function withBelow(
  document: UmboDocument,
  owner: string,
  where: Mask,
  scale: Scale,
  photograph: Raster,
  pictures: Pictures,
): Pictures {
  const { within = [] } = pictures;
  if (!readsBelow(where) || within.includes(owner)) return pictures;
  const small: Pictures = { find: pictures.find, overview: pictures.overview, within: [...within, owner] };
  const inside: Pictures = pictures.filtered ? { ...small, filtered: pictures.filtered } : small;
  const below = documentBelow(document, owner);
  return {
    ...pictures,
    below: {
      pixels(area) {
        const out = createPlanes(area.width * area.height);
        renderRegion(below, scale, area, photograph, inside, (tile, pixels) => copyRows(tile, pixels, area, out));
        return out;
      },
      overview: () => overviewBelow(below, resolvedBelow(resolveLayers(document), owner), scale.full, small),
    },
  };
}

function copyRows(tile: Rect, from: Planes, area: Rect, to: Planes): void {
  for (const plane of ['r', 'g', 'b'] as const)
    for (let y = 0; y < tile.height; y++)
      to[plane].set(from[plane].subarray(y * tile.width, (y + 1) * tile.width), (tile.y - area.y + y) * area.width + tile.x - area.x);
}

function overviewBelow(below: UmboDocument, of: readonly ResolvedLayer[], full: Size, pictures: Pictures): Raster {
  const photograph = pictures.overview!;
  const same = (list: readonly ResolvedLayer[]): boolean => list.length === of.length && list.every((layer, i) => layer === of[i]);
  const known = kept.find((one) => one.photograph === photograph && same(one.of));
  if (known) return known.raster;
  const { width, height } = photograph.area;
  const raster = createRaster(wholeOf({ width, height }));
  renderRegion(below, { picture: { width, height }, full }, raster.area, photograph, pictures, (tile, pixels) =>
    writeRaster(raster, tile, pixels),
  );
  kept.unshift({ of, photograph, raster });
  kept.length = Math.min(kept.length, KEPT);
  return raster;
}
