import { join } from 'node:path';
import type { SpaceId } from '@umbo/core/base';
import { decode, type DecodeHow } from '@umbo/files';
import { inject } from 'vitest';

export const cache = (): string => join(inject('folder'), 'cache');

export interface Pixels {
  width: number;
  height: number;
  bits: 8 | 16;
  profile: string;
  space: SpaceId;
  pixels: Uint16Array;
}

/** A whole decoded photograph. */
export const decodeAll = (path: string, how: DecodeHow = {}): Promise<Pixels> =>
  decode(path, join(cache(), 'scratch'), how, async ({ width, height, bits, profile, space, strips }) => {
    const pixels = new Uint16Array(width * height * 3);
    let at = 0;
    for await (const strip of strips()) {
      pixels.set(strip, at);
      at += strip.length;
    }
    return { width, height, bits, profile, space, pixels };
  });
