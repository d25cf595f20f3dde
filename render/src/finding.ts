/** Finds the regions of a photograph and puts them into its edit, as a window does. */
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { levelSize, shorten } from '@umbo/core/base';
import { after, putFound, roleName, type FoundRegionFile, type UmboDocument } from '@umbo/core/document';
import {
  endJob,
  ensureLevels,
  findPhotograph,
  keepFound,
  photographContent,
  readDocument,
  readForImport,
  type Database,
  type Photograph,
  type ReadFile,
  type TakenJob,
} from '@umbo/data';
import { levelFile } from '@umbo/files';
import { FINDER, findingLevel } from '@umbo/find/files';
import sharp from 'sharp';
import type { FoundMask, FromFinder, ToFinder } from './finder.ts';
import type { Lease } from './lease.ts';
import type { Pool } from './pool.ts';
import { putInto } from './putInto.ts';

/** Most of the time goes into finding, the rest into storing. */
const FINDING = 0.85;

export async function find(db: Database, cache: string, _pool: Pool, lease: Lease, job: TakenJob): Promise<void> {
  const photograph = await findPhotograph(job.photographId);
  const sha256 = await photographContent(db, photograph);
  const kept = await findAndKeep(db, cache, lease, job.id, photograph);
  const id = `found-${job.id}`;
  if (kept.length > 0)
    await putInto(db, job.photographId, id, `Find regions: ${kept.length} found`, (document) => withFound(document, kept, sha256, id));
  await endJob(db, job.id, lease.holder, { state: 'done', store: async () => null });
}

/** An edit with what was found. @param id what the ids of what is new begin with */
export function withFound(document: UmboDocument, kept: readonly FoundRegionFile[], sha256: string, id: string): UmboDocument {
  let made = 0;
  return after(
    document,
    putFound(document, kept, sha256, FINDER, () => `${id}-${made++}`),
  );
}

/**
 * Finds what is on a photograph and keeps it with the shoot that the photograph is in when all is found: all of it, or nothing.
 * @param wanted what is looked for; left out: everything
 */
export async function findAndKeep(
  db: Database,
  cache: string,
  lease: Lease,
  jobId: number,
  photograph: Photograph,
  wanted: ToFinder['wanted'] = null,
): Promise<FoundRegionFile[]> {
  const level = findingLevel(photograph);
  // The nets know pictures in sRGB.
  const { readAs } = (await readDocument(db, photograph.id)).document;
  const of = await ensureLevels(db, cache, photograph.assetId, photograph, { space: 'srgb', readAs });
  const masks = await runFinder({ file: levelFile(cache, of, level), size: levelSize(photograph, level), wanted }, lease);
  const folder = join(cache, 'scratch', `found-${jobId}-${lease.holder}`);
  const files: ReadFile[] = [];
  try {
    await mkdir(folder, { recursive: true });
    for (const [i, { size, data }] of masks.entries()) {
      lease.signal.throwIfAborted();
      const path = join(folder, `${i}.png`);
      await sharp(data, { raw: { ...size, channels: 1 } })
        .toColourspace('b-w')
        .png()
        .toFile(path);
      files.push(await readForImport(db, cache, path, true));
      lease.progress = FINDING + ((1 - FINDING) * files.length) / masks.length;
    }
    const kept = masks.map(({ role, person, sure }, i) => ({ role, person, sure, sha256: files[i]!.sha256 }));
    const stem = photograph.name.replace(/\.[^.]+$/, '');
    const names = masks.map(({ role }) => `${shorten(`${roleName(role)} of ${stem}`, 200)}.png`);
    // Under the job's own key: one that is taken again after a crash keeps nothing twice.
    await keepFound(db, `found-${jobId}`, photograph.id, files, names);
    return kept;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

function runFinder(task: ToFinder, lease: Lease): Promise<readonly FoundMask[]> {
  return new Promise((resolve, reject) => {
    const thread = new Worker(new URL('./finder.js', import.meta.url), { workerData: task });
    const end = (settle: () => void): void => {
      lease.signal.removeEventListener('abort', callOff);
      settle();
      void thread.terminate();
    };
    const callOff = (): void => end(() => reject(lease.signal.reason as Error));
    lease.signal.addEventListener('abort', callOff);
    if (lease.signal.aborted) callOff();
    thread.on('message', (message: FromFinder) => {
      if ('found' in message) end(() => resolve(message.found));
      else lease.progress = FINDING * message.share;
    });
    thread.on('error', (error) => end(() => reject(error)));
    thread.on('exit', () => reject(new Error('The thread that finds regions ended unexpectedly')));
  });
}
