/** What the cache of pixels holds, and what it forgets. */
import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { PIXELS_FORMAT } from '@umbo/core/base';
import { LEASE_MS } from './lease.ts';
import { contentFolder } from './levels.ts';

export async function dropPixels(cache: string, sha256: string): Promise<void> {
  await rm(contentFolder(cache, sha256), { recursive: true, force: true });
}

/** What was made of one file. */
interface CachedPixels {
  sha256: string;
  bytes: number;
  used: number;
}

export async function pixelsInCache(cache: string): Promise<CachedPixels[]> {
  const names = (folder: string): Promise<string[]> => readdir(folder).catch(() => []);
  const cached: CachedPixels[] = [];
  for (const start of await names(join(cache, PIXELS_FORMAT)))
    for (const sha256 of await names(join(cache, PIXELS_FORMAT, start))) {
      const folder = contentFolder(cache, sha256);
      // Another process may take it away meanwhile.
      const files = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => []);
      const sizes = files.filter((file) => file.isFile()).map((file) => stat(join(file.parentPath, file.name)).catch(() => ({ size: 0 })));
      const { mtimeMs: used } = await stat(folder).catch(() => ({ mtimeMs: 0 }));
      cached.push({ sha256, bytes: (await Promise.all(sizes)).reduce((sum, { size }) => sum + size, 0), used });
    }
  return cached;
}

/**
 * Forgets the pixels that were not used for the longest time until the cache is within its budget; for as long as it takes it is larger than
 * that by what is in use.
 */
export async function shrinkCache(cache: string, budget: number): Promise<void> {
  const oldestFirst = (await pixelsInCache(cache)).sort((a, b) => a.used - b.used);
  let total = oldestFirst.reduce((sum, { bytes }) => sum + bytes, 0);
  for (const { sha256, bytes } of oldestFirst) {
    if (total <= budget) return;
    // Looked at again: somebody may have begun to read since the folders were counted.
    const { mtimeMs } = await stat(contentFolder(cache, sha256)).catch(() => ({ mtimeMs: 0 }));
    if (Date.now() - mtimeMs < LEASE_MS) continue;
    await dropPixels(cache, sha256);
    total -= bytes;
  }
}

/** Removes half-done work, and pixels in formats of earlier versions. Nothing else may run. */
export async function dropOldFormats(cache: string): Promise<void> {
  for (const name of await readdir(cache).catch(() => [] as string[]))
    if (name !== PIXELS_FORMAT) await rm(join(cache, name), { recursive: true, force: true });
}
