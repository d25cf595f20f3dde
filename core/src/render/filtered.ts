/**
 * Filters, one after the other for a whole picture. Found together with a band, each would need the band's surroundings of
 * those before it, until a band is most of the picture, and would be found anew for each after it.
 */
import { resolveLayers, stackBackdrop } from '../document/resolve.ts';
import { findLayer } from '../document/tree.ts';
import type { UmboDocument } from '../document/types.ts';
import { expand, intersect, wholeOf, type Rect, type Scale } from '../base/geometry.ts';
import { renderRegion } from './region.ts';
import type { Pictures } from '../base/pictures.ts';
import { createRaster, writeRaster, type Raster } from '../base/planes.ts';
import { forEachNeeded, applyFilter, filterReach } from './prepare.ts';

/** From how many pixels on looking around is worth a pass of its own, even where nothing after it looks around. */
const FAR = 32;

export interface FilterLayer {
  readonly id: string;
  readonly reach: number;
}

/** The layers that are best found one after the other, in the order in which they act: each may need those before it. */
export function filterLayers(document: UmboDocument, scale: Scale): FilterLayer[] {
  const looking: FilterLayer[] = [];
  forEachNeeded(resolveLayers(document), ({ layer: { id, what } }) => {
    const reach = filterReach(what, scale);
    if (reach > 0) looking.push({ id, reach });
  });
  return looking.filter(({ reach }, i) => reach >= FAR || i < looking.length - 1);
}

/** Where the picture below such a layer is looked at for a region, and the edit that shows it. */
export function filterInput(
  document: UmboDocument,
  { id, reach }: FilterLayer,
  scale: Scale,
  region: Rect,
): { below: UmboDocument; area: Rect } {
  return { below: stackBackdrop(document, id), area: intersect(expand(region, reach), wholeOf(scale.picture)) };
}

/**
 * What a layer makes of the picture below it.
 * @param photograph the photograph at this scale, as far as rendering {@link filterInput} the region needs it
 * @param pictures with what those before it made
 * @returns right inside the region; its area reaches further
 */
export function filterRegion(
  document: UmboDocument,
  layer: FilterLayer,
  scale: Scale,
  region: Rect,
  photograph: Raster,
  pictures: Pictures,
): Raster {
  const { below, area } = filterInput(document, layer, scale, region);
  const picture = createRaster(area);
  renderRegion(below, scale, area, photograph, pictures, (tile, pixels) => writeRaster(picture, tile, pixels));
  applyFilter(findLayer(document, layer.id)!.what, picture, scale);
  return picture;
}
