/**
 * The pixels of photographs as a pyramid of files: a cache that can be thrown away at any time.
 * Level 0 is the photograph, each further level half of the one before; 16-bit sRGB, interleaved rows, little-endian.
 */
import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { access, mkdir, open, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { halveRows, levelCount, levelSize, type Size } from '@umbo/core';
import { assetInfo, readAsset } from './assets.ts';
import { decode, inSlices, type Decoded } from './decode.ts';
import { type Database } from './database.ts';

/** Grows when decoding changes, so that old caches are not used. */
const FORMAT = 'v1';

export const levelFile = (cache: string, sha256: string, level: number): string =>
  join(cache, FORMAT, sha256.slice(0, 2), sha256, `level-${level}.rgb16`);

/** Writes all levels; they appear together or not at all. */
export async function writeLevels(cache: string, sha256: string, { width, height, pixels }: Decoded): Promise<void> {
  const target = join(levelFile(cache, sha256, 0), '..');
  const temporary = `${target}.${randomUUID()}`;
  await mkdir(temporary, { recursive: true });
  try {
    let rows = pixels;
    const full = { width, height };
    for (let level = 0; level < levelCount(full); level++) {
      if (level > 0) rows = await halve(rows, levelSize(full, level - 1));
      await writeFile(join(temporary, `level-${level}.rgb16`), new Uint8Array(rows.buffer, rows.byteOffset, rows.byteLength));
    }
    await rename(temporary, target).catch(async (error: NodeJS.ErrnoException) => {
      if (error.code !== 'ENOTEMPTY' && error.code !== 'EEXIST') throw error; // another process was faster: the content is the same
    });
  } finally {
    await rm(temporary, { recursive: true, force: true });
  }
}

async function halve(rows: Uint16Array, size: Size): Promise<Uint16Array> {
  const half = { width: Math.ceil(size.width / 2), height: Math.ceil(size.height / 2) };
  const out = new Uint16Array(half.width * half.height * 3);
  await inSlices(half.height, Math.max(1, Math.floor((1 << 19) / half.width)), (from, to) => {
    const part = rows.subarray(from * 2 * size.width * 3, Math.min(size.height, to * 2) * size.width * 3);
    out.set(halveRows(part, size.width), from * half.width * 3);
  });
  return out;
}

const making = new Map<string, Promise<void>>();

/** Makes the levels of an imported photograph again when they are missing. */
export async function ensureLevels(db: Database, cache: string, assetId: number): Promise<string> {
  const { sha256 } = await assetInfo(db, assetId);
  const there = await access(levelFile(cache, sha256, 0)).then(
    () => true,
    () => false,
  );
  if (there) return sha256;
  let job = making.get(sha256);
  if (!job) {
    job = (async () => {
      const path = join(tmpdir(), `umbo-${randomUUID()}`);
      try {
        await pipeline(Readable.from(readAsset(db, assetId)), createWriteStream(path));
        await writeLevels(cache, sha256, await decode(path));
      } finally {
        await rm(path, { force: true });
        making.delete(sha256);
      }
    })();
    making.set(sha256, job);
  }
  await job;
  return sha256;
}

/** Rows `from` to `to` of a level, as bytes. */
export async function readLevelRows(path: string, width: number, from: number, to: number): Promise<Buffer<ArrayBuffer>> {
  const bytes = Buffer.from(new ArrayBuffer((to - from) * width * 6));
  const file = await open(path);
  try {
    const { bytesRead } = await file.read(bytes, 0, bytes.length, from * width * 6);
    if (bytesRead !== bytes.length) throw new Error('A cached level is shorter than it should be');
  } finally {
    await file.close();
  }
  return bytes;
}

export async function dropLevels(cache: string, sha256: string): Promise<void> {
  await rm(join(levelFile(cache, sha256, 0), '..'), { recursive: true, force: true });
}
