import { shorten } from '@umbo/core/base';
import { spaceIds, spaces } from '@umbo/core/colour';
import { fileFormatIds, fileFormats, type FileFormat } from '@umbo/core/format';
import type { HandOverOptions } from '@umbo/data';

export const FORMATS: readonly (readonly [FileFormat, string])[] = fileFormatIds.map((id) => [id, fileFormats[id].name]);
export const SPACES: readonly (readonly [HandOverOptions['space'], string])[] = [
  ...spaceIds.map((id) => [id, spaces[id].name] as const),
  ['working', 'As it is worked on'],
];

/** The name a hand-over gets unless someone types another. */
export const fileName = (photograph: string, format: FileFormat): string =>
  shorten(photograph.replace(/\.[^.]+$/, ''), 240) + fileFormats[format].ending;

/** Such as "TIFF 16 bit, sRGB" or "JPEG quality 92, 2048 px long, sRGB". */
export function describeOptions({ format, bits, space, profile, quality, atMost, size, grey }: HandOverOptions): string {
  const { name, isLossy } = fileFormats[format];
  if (grey) return `Mask, ${name} ${bits} bit`;
  const how = !isLossy ? `${bits} bit` : atMost === undefined ? `quality ${quality}` : `up to ${atMost} kB`;
  const large = !size
    ? ''
    : size.kind === 'long'
      ? `${size.pixels} px long`
      : size.kind === 'percent'
        ? `${size.percent} %`
        : `${size.width} × ${size.height}`;
  return [`${name} ${how}`, large, profile ? 'for a profile' : space === 'working' ? 'its working space' : spaces[space].name]
    .filter(Boolean)
    .join(', ');
}

export const describeBytes = (bytes: number): string => (bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`);
