import { mkdir, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import {
  endJob,
  ensureLevels,
  findPhotograph,
  pixelsFor,
  readAskedEdit,
  readMetadata,
  readProfile,
  storeAsset,
  type TakenJob,
  type Database,
} from '@umbo/data';
import { hashFile, levelFile, type Press } from '@umbo/files';
import type { Lease } from './lease.ts';
import { pictureFiles } from './pictures.ts';
import type { Pool } from './pool.ts';
import { renderFile } from './renderFile.ts';

/** Renders a photograph at full size into a file and stores it. Stops quietly when the job is cancelled. */
export async function handOver(db: Database, cache: string, pool: Pool, lease: Lease, job: TakenJob<'hand-over'>): Promise<void> {
  const folder = join(cache, 'hand-overs', `${job.id}-${lease.holder}`);
  try {
    await mkdir(folder, { recursive: true });
    await removeOthers(folder, job.id);
    const photograph = await findPhotograph(job.photographId);
    const full = { width: photograph.width, height: photograph.height };
    const { options } = job;
    const document = await readAskedEdit(db, job.id, options);
    const of = await ensureLevels(db, cache, photograph.assetId, full, pixelsFor(document));
    const rendering = {
      document,
      full,
      level: levelFile(cache, of, 0),
      pictures: await pictureFiles(db, cache, photograph, document, 1, false),
      options,
      press: await pressOf(options),
      metadata: await readMetadata(db, photograph.assetId),
    };
    const result = await renderFile(rendering, folder, pool, {
      told: (share) => (lease.progress = share),
      signal: lease.signal,
    });
    if (result === null) return;
    const hash = await hashFile(result);
    await endJob(db, job.id, lease.holder, {
      state: 'done',
      store: async (transaction) => ({ assetId: await storeAsset(db, result, hash, transaction) }),
    });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** The profile that a file is made for; null for one in a space. */
async function pressOf({ profile }: TakenJob<'hand-over'>['options']): Promise<Press | null> {
  if (!profile) return null;
  const { icc, colours } = await readProfile(profile.id);
  return { icc, colours, intent: profile.intent, black: profile.black };
}

/** Removes what a process left that was killed while it had the job. */
async function removeOthers(folder: string, jobId: number): Promise<void> {
  const all = join(folder, '..');
  for (const name of await readdir(all))
    if (name.startsWith(`${jobId}-`) && join(all, name) !== folder) await rm(join(all, name), { recursive: true, force: true });
}
