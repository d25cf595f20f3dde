/**
 * The pixels of photographs as a pyramid of files: a cache that can be thrown away at any time.
 * Level 0 is the photograph, each further level half of the one before; 16 bits in a working space, interleaved rows, little-endian.
 */
import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat, utimes, type FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { halveRows, levelCount, levelSize, PIXELS_FORMAT, type Size, type SpaceId } from '@umbo/core/base';
import type { UmboDocument } from '@umbo/core/document';
import { assetInfo, knownContent, readAsset } from './assets.ts';
import { decode, type Decoded, type DecodeHow } from './decode.ts';
import { type Database } from './database.ts';
import type { Photograph } from './models.ts';
import { LEASE_MS, NOTE_MS, noteReading, PixelsGone } from './pixelLease.ts';

/** A mask has no colours: its greys are those of its file, for whatever photograph it is used. */
export const MASK_SPACE: SpaceId = 'srgb';

/** Pixels: of the file with this content, in a working space. */
export interface PixelsOf {
  readonly sha256: string;
  readonly space: SpaceId;
  /** The space that the file's samples are taken to be in; left out: as the file says. */
  readonly readAs?: SpaceId | undefined;
}

/** How an edit has a photograph's pixels: its own, or another one of the shoot that it shows. */
export const pixelsFor = (
  { isMask }: Pick<Photograph, 'isMask'>,
  { workingSpace, readAs }: Pick<UmboDocument, 'workingSpace' | 'readAs'>,
  own = true,
): Omit<PixelsOf, 'sha256'> => ({ space: isMask ? MASK_SPACE : workingSpace, readAs: own && !isMask ? readAs : undefined });

export const levelFile = (cache: string, of: PixelsOf, level: number): string => join(levelFolder(cache, of), `level-${level}.rgb16`);

const levelFolder = (cache: string, { sha256, space, readAs }: PixelsOf): string =>
  join(contentFolder(cache, sha256), readAs ? `${space} as ${readAs}` : space);

/** All pixels that were made of a file. */
const contentFolder = (cache: string, sha256: string): string => join(cache, PIXELS_FORMAT, sha256.slice(0, 2), sha256);

/** Where files lie for as long as something works on them; emptied at every start. */
export const scratchFolder = (cache: string): string => join(cache, 'scratch');

/** Writes all levels in one pass; they appear together or not at all. */
export async function writeLevels(cache: string, of: PixelsOf, picture: Decoded): Promise<void> {
  const target = levelFolder(cache, of);
  const temporary = join(scratchFolder(cache), randomUUID());
  await mkdir(temporary, { recursive: true });
  await mkdir(join(target, '..'), { recursive: true });
  const files: FileHandle[] = [];
  try {
    for (let level = 0; level < levelCount(picture); level++) files.push(await open(join(temporary, `level-${level}.rgb16`), 'wx'));
    const push = levelWriter(files, picture);
    for await (const strip of picture.strips()) await push(strip);
    await push(null);
    // On the disk before they have their names: a power cut leaves no level that is longer than its content.
    for (const file of files) await file.sync();
    await putInPlace(cache, of, picture, temporary);
  } finally {
    await Promise.all(files.map((file) => file.close()));
    await rm(temporary, { recursive: true, force: true });
  }
}

/** What is whole is never taken away from those who read it: where another was faster, its levels stay, for the content is the same. */
async function putInPlace(cache: string, of: PixelsOf, full: Size, made: string): Promise<void> {
  const target = levelFolder(cache, of);
  const isThere = (error: NodeJS.ErrnoException): boolean => {
    if (error.code !== 'ENOTEMPTY' && error.code !== 'EEXIST') throw error;
    return true;
  };
  if (!(await rename(made, target).catch(isThere)) || (await levelsAreThere(cache, of, full))) return;
  // A level is missing or cut: what is there gives way, in one move.
  const broken = join(scratchFolder(cache), randomUUID());
  await rename(target, broken).catch(() => undefined);
  await rename(made, target).catch(isThere);
  await rm(broken, { recursive: true, force: true });
}

/** Takes rows as they come, writes them, and hands what two of them make on to the next level. Null ends the picture. */
function levelWriter([file, ...smaller]: FileHandle[], { width, height }: Size): (rows: Uint16Array | null) => Promise<void> {
  const next = smaller.length > 0 ? levelWriter(smaller, { width: Math.ceil(width / 2), height: Math.ceil(height / 2) }) : null;
  let odd: Uint16Array = new Uint16Array(0);
  let position = 0;
  return async (rows) => {
    if (rows) {
      const bytes = new Uint8Array(rows.buffer, rows.byteOffset, rows.byteLength);
      for (let done = 0; done < bytes.length;) {
        const { bytesWritten } = await file!.write(bytes, done, bytes.length - done, position);
        done += bytesWritten;
        position += bytesWritten;
      }
    }
    if (!next) return;
    const all = new Uint16Array(odd.length + (rows?.length ?? 0));
    all.set(odd);
    if (rows) all.set(rows, odd.length);
    const whole = rows ? all.length - (all.length % (width * 6)) : all.length;
    odd = all.slice(whole);
    if (whole > 0) await next(halveRows(all.subarray(0, whole), width));
    if (!rows) await next(null);
  };
}

/** Whether all levels of a photograph are there and as long as they should be. */
export async function levelsAreThere(cache: string, of: PixelsOf, full: Size): Promise<boolean> {
  const lengths = await Promise.all(
    Array.from({ length: levelCount(full) }, (_, level) =>
      stat(levelFile(cache, of, level)).then(
        ({ size }) => size,
        () => -1,
      ),
    ),
  );
  const there = lengths.every((length, level) => length === bytesOf(full, level));
  if (there) await noteUse(contentFolder(cache, of.sha256));
  return there;
}

function bytesOf(full: Size, level: number): number {
  const { width, height } = levelSize(full, level);
  return width * height * 6;
}

/** The folder's time says when its pixels were used last, to the minute. */
async function noteUse(folder: string): Promise<void> {
  const now = new Date();
  const { mtimeMs } = await stat(folder).catch(() => ({ mtimeMs: now.getTime() }));
  if (now.getTime() - mtimeMs > NOTE_MS) await utimes(folder, now, now).catch(() => undefined);
}

/** What is known of a picture once its pixels are in the cache. */
export type PictureRead = Omit<Decoded, 'strips'>;

/** Reads a file's picture into the cache of pixels, and says what is known of it. @throws Problem 'refused' */
export type ReadPicture = (cache: string, path: string, sha256: string, how: DecodeHow) => Promise<PictureRead>;

/** In this thread. */
export const readPictureHere: ReadPicture = (cache, path, sha256, how) =>
  decode(path, scratchFolder(cache), how, async ({ strips, ...facts }) => {
    const of = { sha256, space: facts.space, readAs: how.readAs };
    if (!(await levelsAreThere(cache, of, facts))) await writeLevels(cache, of, { ...facts, strips });
    return facts;
  });

let reader: ReadPicture = readPictureHere;
/** Has files read by something else, such as a thread that can be ended: they are hostile. */
export const readPicturesBy = (read: ReadPicture): void => void (reader = read);
export const readPicture: ReadPicture = (...what) => reader(...what);

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
  const key = levelFolder('', of);
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

/** Rows `from` to `to` of a level, as bytes. */
export async function readLevelRows(path: string, width: number, from: number, to: number): Promise<Buffer<ArrayBuffer>> {
  const bytes = Buffer.from(new ArrayBuffer((to - from) * width * 6));
  noteReading(path);
  const file = await open(path).catch((error: NodeJS.ErrnoException) => {
    throw error.code === 'ENOENT' ? new PixelsGone() : error;
  });
  try {
    const { bytesRead } = await file.read(bytes, 0, bytes.length, from * width * 6);
    if (bytesRead !== bytes.length) throw new Error('A cached level is shorter than it should be');
  } finally {
    await file.close();
  }
  return bytes;
}

export async function dropLevels(cache: string, sha256: string): Promise<void> {
  await rm(contentFolder(cache, sha256), { recursive: true, force: true });
}

interface Kept {
  sha256: string;
  bytes: number;
  used: number;
}

async function keptLevels(cache: string): Promise<Kept[]> {
  const names = (folder: string): Promise<string[]> => readdir(folder).catch(() => []);
  const kept: Kept[] = [];
  for (const start of await names(join(cache, PIXELS_FORMAT)))
    for (const sha256 of await names(join(cache, PIXELS_FORMAT, start))) {
      const folder = contentFolder(cache, sha256);
      // Another process may take it away meanwhile.
      const files = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => []);
      const sizes = files.filter((file) => file.isFile()).map((file) => stat(join(file.parentPath, file.name)).catch(() => ({ size: 0 })));
      const { mtimeMs: used } = await stat(folder).catch(() => ({ mtimeMs: 0 }));
      kept.push({ sha256, bytes: (await Promise.all(sizes)).reduce((sum, { size }) => sum + size, 0), used });
    }
  return kept;
}

/**
 * Forgets the pixels that were not used for the longest time until the cache is within its budget; for as long as it takes it is larger than
 * that by what is in use.
 */
export async function shrinkCache(cache: string, budget: number): Promise<void> {
  const kept = (await keptLevels(cache)).sort((a, b) => a.used - b.used);
  let total = kept.reduce((sum, { bytes }) => sum + bytes, 0);
  for (const { sha256, bytes } of kept) {
    if (total <= budget) return;
    // Looked at again: somebody may have begun to read since the folders were counted.
    const { mtimeMs } = await stat(contentFolder(cache, sha256)).catch(() => ({ mtimeMs: 0 }));
    if (Date.now() - mtimeMs < LEASE_MS) continue;
    await dropLevels(cache, sha256);
    total -= bytes;
  }
}

/** Removes what earlier runs left behind: half-done work, pixels of what is gone, and caches of earlier kinds. Nothing else may run. */
export async function sweepCache(db: Database, cache: string): Promise<void> {
  for (const name of await readdir(cache).catch(() => [] as string[]))
    if (name !== PIXELS_FORMAT) await rm(join(cache, name), { recursive: true, force: true });
  const kept = (await keptLevels(cache)).map(({ sha256 }) => sha256);
  const known = await knownContent(db, kept);
  for (const sha256 of kept) if (!known.has(sha256)) await dropLevels(cache, sha256);
}
