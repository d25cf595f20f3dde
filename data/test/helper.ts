import { randomUUID } from 'node:crypto';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { addMaskPicture, importPhotograph, inTransaction, Photograph, readForImport, type Database } from '@umbo/data';
import sharp from 'sharp';
import { inject } from 'vitest';

/** A key that no other call has. */
export const key = (): string => randomUUID();

export const cache = (): string => join(inject('folder'), 'cache');

/** Imports a file as a render process does. */
export async function add(db: Database, shootId: number, name: string, path: string): Promise<Photograph> {
  const id = await importPhotograph(db, cache(), key(), { shootId, name }, path);
  return (await Photograph.findByPk(id))!;
}

/** Imports a file as a mask. @returns its id */
export async function addMask(db: Database, options: { shootId: number; name: string; isFound?: boolean }, path: string): Promise<number> {
  const file = await readForImport(db, cache(), path, true);
  return inTransaction(db, (transaction) => addMaskPicture(db, options, file, transaction));
}

let shade = 0;

/** Imports a small picture of one colour, which no other has. */
export async function addPlain(db: Database, shootId: number, name: string): Promise<number> {
  const path = join(inject('folder'), name);
  const background = { r: ++shade % 256, g: Math.floor(shade / 256), b: 90 };
  await writeFile(
    path,
    await sharp({ create: { width: 9, height: 6, channels: 3, background } })
      .png()
      .toBuffer(),
  );
  return (await add(db, shootId, name, path)).id;
}
