/** From an edit to the pixels of a region. */
import type { Rect, Scale } from '../base/geometry.ts';
import type { Pictures } from '../base/pictures.ts';
import { readRaster, type Planes, type Raster } from '../base/planes.ts';
import { resolveLayers } from '../document/resolve.ts';
import type { UmboDocument } from '../document/types.ts';
import { findPixels } from './backdrop.ts';
import { createWorkspace, easeStack, renderTiles } from './layers.ts';
import { prepare } from './prepare.ts';

/**
 * Renders a region of the edited picture.
 * @param photograph the photograph at this scale, covering the region and {@link documentReach} around it, within the picture
 * @param pictures with what {@link picturesNeeded} names
 * @param emit receives every finished tile; its planes are used again afterwards
 * @example
 * const size = { width: 2, height: 1 };
 * const photograph = createRaster(wholeOf(size));
 * const document = { ...emptyDocument(size), layers: [adjustmentLayer('a', 'invert', 'Negative')] };
 * const seen = [];
 * renderRegion(document, scaleOf(document, size), wholeOf(size), photograph, noPictures, (tile, { r }) => seen.push(tile.width, r[0]));
 * seen; // → [2, 1]
 */
export function renderRegion(
  document: UmboDocument,
  scale: Scale,
  region: Rect,
  photograph: Raster,
  pictures: Pictures,
  emit: (tile: Rect, pixels: Planes) => void,
): void {
  const { area, pixelsOf } = findPixels(document, scale, region, photograph, pictures);
  const layers = prepare(resolveLayers(document), area, pixelsOf);
  const work = createWorkspace();
  const { strength = 1 } = document;
  renderTiles(layers, scale, region, photograph, work, (tile, pixels) => {
    if (strength < 1) {
      readRaster(photograph, tile, work.backdrop);
      easeStack(strength, work.backdrop, pixels, tile.width * tile.height);
    }
    emit(tile, pixels);
  });
}
