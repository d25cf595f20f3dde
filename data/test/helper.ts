import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { decode, importPhotograph, Photograph, type Database } from '@umbo/data';
import { inject } from 'vitest';

/** A key that no other call has. */
export const key = (): string => randomUUID();

export const cache = (): string => join(inject('folder'), 'cache');

/** Imports a file as a render process does. */
export async function add(db: Database, shootId: number, name: string, path: string, isMask = false): Promise<Photograph> {
  const id = await importPhotograph(db, cache(), key(), { shootId, name, isMask }, path);
  return (await Photograph.findByPk(id))!;
}

export interface Pixels {
  width: number;
  height: number;
  bits: 8 | 16;
  profile: string;
  pixels: Uint16Array;
}

/** A whole decoded photograph. */
export const decodeAll = (path: string): Promise<Pixels> =>
  decode(path, join(cache(), 'scratch'), async ({ width, height, bits, profile, strips }) => {
    const pixels = new Uint16Array(width * height * 3);
    let at = 0;
    for await (const strip of strips()) {
      pixels.set(strip, at);
      at += strip.length;
    }
    return { width, height, bits, profile, pixels };
  });
