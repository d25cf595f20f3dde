import {
  createRaster,
  levelFor,
  levelSize,
  resample,
  wholeOf,
  type Pictures,
  type Raster,
  type Rect,
  type Samples,
  type Scale,
  type Size,
} from '@umbo/core/base';
import { scaleOf, type UmboDocument } from '@umbo/core/document';
import { pictureSamples, sizeAt } from '@umbo/core/geometry';
import { renderRegion } from '@umbo/core/render';
import { paint, showingSmall } from './display';
import type { MaskThumbnail, PictureThumbnail } from '../protocol';

const LONG_SIDE = 160;

/** How much larger the photograph is made, at most, so that a crop of it is as long as a thumbnail. */
const NEAREST = 4;

/** The size of all of the photograph for a thumbnail of its picture. @param picture in full */
export function thumbnailSize(full: Size, picture: Size, longSide = LONG_SIDE): Size {
  const longest = Math.max(full.width, full.height);
  const share = Math.max(1 / NEAREST, Math.min(1, Math.max(picture.width, picture.height) / longest));
  const shrink = Math.min(1, longSide / share / longest);
  return { width: Math.max(1, Math.round(full.width * shrink)), height: Math.max(1, Math.round(full.height * shrink)) };
}

/** The photograph at the size of a thumbnail. @param level the raster of the level that {@link levelFor} names */
export function thumbnailSource(full: Size, level: Raster, size: Size): Raster {
  const out = createRaster(wholeOf(size));
  resample(level, levelSize(full, levelFor(full, size.width)), size, wholeOf(size), out);
  return out;
}

export function pictureThumbnail(document: UmboDocument, source: Raster, pictures: Pictures): PictureThumbnail {
  const scale = scaleOf(document, sizeOf(source));
  const render = (area: Rect): Samples => {
    const values = new Uint8ClampedArray(area.width * area.height * 4).fill(255);
    renderRegion(document, scale, area, source, pictures, (tile, pixels) => paint(values, area, tile, pixels, showingSmall(scale)));
    return { area, channels: 4, values };
  };
  const { area, values } = pictureSamples(scale, wholeOf(sizeAt(scale)), render);
  return { width: area.width, height: area.height, rgba: values as Uint8ClampedArray<ArrayBuffer> };
}

/** @param mask of all of the photograph at this scale */
export function maskThumbnail(mask: Uint16Array, scale: Scale): MaskThumbnail {
  const all: Samples = { area: wholeOf(scale.picture), channels: 1, values: mask };
  const { area, values } = pictureSamples(
    scale,
    wholeOf(sizeAt(scale)),
    () => all,
    () => [0],
  );
  return { width: area.width, height: area.height, values: new Float32Array(values).map((v) => v / 65535) };
}

const sizeOf = ({ area: { width, height } }: Raster): Size => ({ width, height });
