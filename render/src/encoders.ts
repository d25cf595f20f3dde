/** How a picture is written in each format. */
import type { Size } from '@umbo/core/base';
import type { FileFormat } from '@umbo/core/format';
import type { Sharp } from 'sharp';
import { fitsMemory } from './divide.ts';

/** Bytes for every pixel while the code tables of a JPEG are fitted to it, which makes it smaller: all of it is held (measured). */
const OPTIMISED_JPEG = 12.5;

/** @param quality of lossy formats, 1..100 @param full how large the picture is */
export type Encoder = (image: Sharp, quality: number, full: Size) => Sharp;

export const encoders: Readonly<Record<FileFormat, Encoder>> = {
  jpeg: (image, quality, full) =>
    image.jpeg({
      quality,
      chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0',
      optimiseCoding: fitsMemory(full, OPTIMISED_JPEG),
    }),
  png: (image) => image.png({ compressionLevel: 6 }),
  tiff: (image) => image.tiff({ compression: 'deflate', predictor: 'horizontal' }),
  webp: (image, quality) => image.webp({ quality }),
  avif: (image, quality) => image.avif({ quality, effort: 3 }),
};
