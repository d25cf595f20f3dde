/**
 * The pixels of photographs as a pyramid of files: a cache that can be thrown away at any time.
 * Level 0 is the photograph, each further level half of the one before; 16 bits in a working space, interleaved rows, little-endian.
 */
import { randomUUID } from 'node:crypto';
import { mkdir, open, rename, rm, stat, utimes, type FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { halveRows, levelCount, levelSize, PIXELS_FORMAT, type Size, type SpaceId } from '@umbo/core/base';
import { decode, type Decoded, type DecodeHow } from '../read/decode.ts';
import { NOTE_MS, noteReading, PixelsGone } from './lease.ts';

/** A mask has no colours: its greys are those of its file, for whatever photograph it is used. */
export const MASK_SPACE: SpaceId = 'srgb';

/** Pixels: of the file with this content, in a working space. */
export interface PixelsOf {
  readonly sha256: string;
  readonly space: SpaceId;
  /** The space that the file's samples are taken to be in; left out: as the file says. */
  readonly readAs?: SpaceId | undefined;
}

export const levelFile = (cache: string, of: PixelsOf, level: number): string => join(levelFolder(cache, of), `level-${level}.rgb16`);

const levelFolder = (cache: string, { sha256, space, readAs }: PixelsOf): string =>
  join(contentFolder(cache, sha256), readAs ? `${space} as ${readAs}` : space);

/** All pixels that were made of a file. */
export const contentFolder = (cache: string, sha256: string): string => join(cache, PIXELS_FORMAT, sha256.slice(0, 2), sha256);

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
