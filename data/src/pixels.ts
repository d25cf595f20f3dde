/** Which pixels an edit has of a photograph, and that they are in the cache: its files are kept in the database. */
import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import type { Size } from '@umbo/core/base';
import type { UmboDocument } from '@umbo/core/document';
import {
  dropOldFormats,
  dropPixels,
  levelFile,
  levelsAreThere,
  MASK_SPACE,
  pixelsInCache,
  readPicture,
  scratchFolder,
  type PixelsOf,
} from '@umbo/files';
import { QueryTypes } from 'sequelize';
import { assetInfo, knownContent, readAsset } from './assets.ts';
import type { Database } from './database.ts';

/** How an edit has a photograph's pixels: its own, or another one of the shoot that it shows. */
export const pixelsFor = (
  { workingSpace, readAs }: Pick<UmboDocument, 'workingSpace' | 'readAs'>,
  shown: 'own' | 'other' | 'mask' = 'own',
): Omit<PixelsOf, 'sha256'> =>
  shown === 'mask' ? { space: MASK_SPACE } : { space: workingSpace, readAs: shown === 'own' ? readAs : undefined };

/** A picture that an edit can show: another photograph of the shoot, or a mask. */
export interface Picture extends Size {
  readonly assetId: number;
  readonly isMask: boolean;
}

/** Photographs go before masks of the same content. */
const PICTURES = `(SELECT id, shootId, assetId, width, height, 0 isMask FROM photographs
  UNION ALL SELECT id, shootId, assetId, width, height, 1 isMask FROM mask_pictures)`;

/** A picture of a shoot by the content of its file; null where there is none. */
export async function pictureWithContent(db: Database, shootId: number, sha256: string): Promise<Picture | null> {
  const [found] = await db.query<Size & { assetId: number; isMask: 0 | 1 }>(
    `SELECT p.assetId, p.width, p.height, p.isMask FROM assets a JOIN ${PICTURES} p ON p.assetId = a.id
     WHERE a.sha256 = $2 AND p.shootId = $1 ORDER BY p.isMask, p.id LIMIT 1`,
    { bind: [shootId, sha256], type: QueryTypes.SELECT },
  );
  return found ? { ...found, isMask: found.isMask === 1 } : null;
}

/** How large the picture of a file is; null when no photograph or mask is of it any more. */
export async function sizeOfFile(db: Database, assetId: number): Promise<Size | null> {
  const [found] = await db.query<Size>(`SELECT width, height FROM ${PICTURES} p WHERE assetId = $1 LIMIT 1`, {
    bind: [assetId],
    type: QueryTypes.SELECT,
  });
  return found ?? null;
}

const making = new Map<string, Promise<unknown>>();

/** Makes the levels of a photograph in a working space, where one is missing or short. @returns what they are named after */
export async function ensureLevels(
  db: Database,
  cache: string,
  assetId: number,
  full: Size,
  { space, readAs }: Omit<PixelsOf, 'sha256'>,
): Promise<PixelsOf> {
  const { sha256 } = await assetInfo(db, assetId);
  const of = { sha256, space, readAs };
  if (await levelsAreThere(cache, of, full)) return of;
  const key = levelFile('', of, 0);
  let job = making.get(key);
  if (!job) {
    job = withAsset(db, cache, assetId, (path) => readPicture(cache, path, sha256, { space, readAs }));
    making.set(key, job);
  }
  try {
    await job;
  } finally {
    making.delete(key);
  }
  return of;
}

/** Puts an asset into a file for as long as `use` runs. */
export async function withAsset<T>(db: Database, cache: string, assetId: number, use: (path: string) => Promise<T>): Promise<T> {
  const scratch = scratchFolder(cache);
  await mkdir(scratch, { recursive: true });
  const path = join(scratch, randomUUID());
  try {
    await pipeline(Readable.from(readAsset(db, assetId)), createWriteStream(path));
    return await use(path);
  } finally {
    await rm(path, { force: true });
  }
}

/** Removes what earlier runs left behind: half-done work, pixels of what is gone, and caches of earlier kinds. Nothing else may run. */
export async function sweepCache(db: Database, cache: string): Promise<void> {
  await dropOldFormats(cache);
  const kept = (await pixelsInCache(cache)).map(({ sha256 }) => sha256);
  const known = await knownContent(db, kept);
  for (const sha256 of kept) if (!known.has(sha256)) await dropPixels(cache, sha256);
}
