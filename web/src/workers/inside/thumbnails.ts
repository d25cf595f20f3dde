import { createRaster, levelFor, levelSize, quantise, resample, wholeOf, type Pictures, type Raster, type Size } from '@umbo/core/base';
import { scaleOf, type UmboDocument } from '@umbo/core/document';
import { renderRegion } from '@umbo/core/render';
import type { MaskThumbnail, PictureThumbnail } from '../protocol';

const LONG_SIDE = 160;

export function thumbnailSize(full: Size, longSide = LONG_SIDE): Size {
  const shrink = Math.min(1, longSide / Math.max(full.width, full.height));
  return { width: Math.max(1, Math.round(full.width * shrink)), height: Math.max(1, Math.round(full.height * shrink)) };
}

/** The photograph at the size of a thumbnail. @param level the raster of the level that {@link levelFor} names */
export function thumbnailSource(full: Size, level: Raster, size = thumbnailSize(full)): Raster {
  const out = createRaster(wholeOf(size));
  resample(level, levelSize(full, levelFor(full, size.width)), size, wholeOf(size), out);
  return out;
}

export function pictureThumbnail(document: UmboDocument, source: Raster, pictures: Pictures): PictureThumbnail {
  const { width, height } = source.area;
  const rgba = new Uint8ClampedArray(width * height * 4).fill(255);
  renderRegion(document, scaleOf(document, { width, height }), source.area, source, pictures, (tile, { r, g, b }) => {
    for (let y = 0, i = 0; y < tile.height; y++)
      for (let x = 0, o = ((tile.y + y) * width + tile.x) * 4; x < tile.width; x++, i++, o += 4) {
        rgba[o] = quantise(r[i]!, 255);
        rgba[o + 1] = quantise(g[i]!, 255);
        rgba[o + 2] = quantise(b[i]!, 255);
      }
  });
  return { width, height, rgba };
}

export const maskThumbnail = (mask: Uint16Array, { width, height }: Size): MaskThumbnail => ({
  width,
  height,
  values: Float32Array.from(mask, (v) => v / 65535),
});
