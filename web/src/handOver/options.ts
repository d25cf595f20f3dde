import { shorten } from '@umbo/core/base';
import type { FileFormat, HandOverOptions } from '@umbo/data';

export const FORMATS: readonly (readonly [FileFormat, string])[] = [
  ['jpeg', 'JPEG'],
  ['png', 'PNG'],
  ['tiff', 'TIFF'],
];
export const SPACES: readonly (readonly [HandOverOptions['space'], string])[] = [
  ['srgb', 'sRGB'],
  ['display-p3', 'Display P3'],
];
const ENDING: Record<FileFormat, string> = { jpeg: '.jpg', png: '.png', tiff: '.tif' };

/** The name a hand-over gets unless someone types another. */
export const fileName = (photograph: string, format: FileFormat): string =>
  shorten(photograph.replace(/\.[^.]+$/, ''), 240) + ENDING[format];

/** Such as "TIFF 16 bit, sRGB". */
export const describeOptions = ({ format, bits, space, quality, grey }: HandOverOptions): string =>
  grey
    ? `Mask, ${format.toUpperCase()} ${bits} bit`
    : `${format.toUpperCase()} ${format === 'jpeg' ? `quality ${quality}` : `${bits} bit`}, ${SPACES.find(([id]) => id === space)![1]}`;

export const describeBytes = (bytes: number): string => (bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`);
