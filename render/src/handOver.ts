import { mkdir, readdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Rect, Size } from '@umbo/core/base';
import { tiffHeader } from '@umbo/core/format';
import { documentReach, lookingLayers } from '@umbo/core/render';
import {
  endJob,
  ensureLevels,
  findPhotograph,
  hashFile,
  levelFile,
  outputProfile,
  storeAsset,
  type HandOverOptions,
  type TakenJob,
} from '@umbo/data';
import type { Database } from '@umbo/data';
import sharp from 'sharp';
import { bytesPerPixel, divide, fitsMemory } from './divide.ts';
import { otherLevels, overviewOf } from './others.ts';
import type { Lease } from './lease.ts';
import type { Pool } from './pool.ts';
import type { Task } from './tasks.ts';

/** Rendering is this much of the whole; encoding and storing are the rest. */
const RENDER_SHARE = 0.8;
/** Bytes for every pixel while the code tables of a JPEG are fitted to it, which makes it smaller: all of it is held (measured). */
const OPTIMISED_JPEG = 12.5;

/** Renders a photograph at full size into a file and stores it. Stops quietly when the job is cancelled. */
export async function handOver(db: Database, cache: string, pool: Pool, lease: Lease, job: TakenJob): Promise<void> {
  const folder = join(cache, 'hand-overs', `${job.id}-${lease.holder}`);
  const [plain, result] = [join(folder, 'plain.tiff'), join(folder, 'result')];
  const filtered: { id: string; file: string }[] = [];
  try {
    await mkdir(folder, { recursive: true });
    await removeOthers(folder, job.id);
    const photograph = await findPhotograph(job.photographId);
    const full = { width: photograph.width, height: photograph.height };
    const sha256 = await ensureLevels(db, cache, photograph.assetId, full);
    const others = await otherLevels(db, cache, photograph, job.document, 1);
    const { bits, space } = job.options;

    const header = tiffHeader(full.width, full.height, bits, await outputProfile(space));
    await writeFile(plain, header);

    const scale = { picture: full, full };
    const looking = lookingLayers(job.document, scale);
    const edit = {
      document: job.document,
      full,
      others,
      overview: overviewOf(cache, sha256, full, job.document),
      level: levelFile(cache, sha256, 0),
    };
    const bytes = bytesPerPixel(job.document);
    /** Renders the picture once, part by part. */
    const pass = async (reach: number, taskOf: (part: Rect) => Task): Promise<void> => {
      const { parts, lanes } = divide(full, reach, bytes, pool.size);
      const begin = lease.progress ?? 0;
      let next = 0;
      let ended = 0;
      const lane = async (): Promise<void> => {
        for (let i = next++; i < parts.length && lease.held; i = next++) {
          await pool.run(taskOf(parts[i]!));
          lease.progress = begin + (RENDER_SHARE * ++ended) / parts.length / (looking.length + 1);
        }
      };
      await Promise.all(Array.from({ length: lanes }, lane));
    };
    for (const layer of looking) {
      const out = join(folder, `${filtered.length}.planes`);
      await writeFile(out, '');
      const known = [...filtered];
      filtered.push({ id: layer.id, file: out });
      await pass(layer.reach, (part) => ({ ...edit, type: 'filter', layer, part, filtered: known, out }));
      if (!lease.held) return;
    }
    const reach = documentReach(job.document, scale, { known: new Set(looking.map(({ id }) => id)) });
    await pass(reach, (part) => ({ ...edit, type: 'part', part, filtered, bits, space, out: plain, offset: header.length }));
    if (!lease.held) return;

    await encode(plain, result, full, job.options);
    const hash = await hashFile(result);
    await endJob(db, job.id, lease.holder, {
      state: 'done',
      store: async (transaction) => ({ assetId: await storeAsset(db, result, hash, transaction) }),
    });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Removes what a process left that was killed while it had the job. */
async function removeOthers(folder: string, jobId: number): Promise<void> {
  const all = join(folder, '..');
  for (const name of await readdir(all))
    if (name.startsWith(`${jobId}-`) && join(all, name) !== folder) await rm(join(all, name), { recursive: true, force: true });
}

/** From the plain TIFF, whose profile is carried over while the pixels are left alone. */
async function encode(from: string, to: string, size: Size, { format, bits, quality, grey }: HandOverOptions): Promise<void> {
  const image = sharp(from, { ignoreIcc: true, limitInputPixels: false });
  if (grey) image.extractChannel(0).toColourspace(bits === 16 ? 'grey16' : 'b-w');
  else {
    image.keepIccProfile();
    if (bits === 16) image.toColourspace('rgb16');
  }
  if (format === 'jpeg')
    image.jpeg({
      quality,
      chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0',
      optimiseCoding: fitsMemory(size, OPTIMISED_JPEG),
    });
  else if (format === 'png') image.png({ compressionLevel: 6 });
  else image.tiff({ compression: 'deflate', predictor: 'horizontal' });
  await image.toFile(to);
}
