/** Finds the regions of a photograph and puts them into its edit, as a window does. */
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { levelSize, shorten } from '@umbo/core/base';
import { edit, putFound, roleName, type FoundRegionFile } from '@umbo/core/document';
import {
  changeDocument,
  databaseId,
  endJob,
  ensureLevels,
  findPhotograph,
  hashFile,
  importPhotograph,
  levelFile,
  Problem,
  readDocument,
  type Database,
  type TakenJob,
} from '@umbo/data';
import { FINDER, findingLevel } from '@umbo/find/files';
import sharp from 'sharp';
import type { FoundMask, FromFinder, ToFinder } from './finder.ts';
import type { Lease } from './lease.ts';
import type { Pool } from './pool.ts';

/** So often an edit may change while what was found is put into it. */
const TRIES = 20;
/** Most of the time goes into finding, the rest into storing. */
const FINDING = 0.85;

export async function find(db: Database, cache: string, _pool: Pool, lease: Lease, job: TakenJob): Promise<void> {
  const photograph = await findPhotograph(job.photographId);
  const sha256 = await ensureLevels(db, cache, photograph.assetId, photograph);
  const level = findingLevel(photograph);
  const masks = await runFinder({ file: levelFile(cache, sha256, level), size: levelSize(photograph, level) }, lease);
  if (masks === null) return;
  const folder = join(cache, 'scratch', `found-${job.id}-${lease.holder}`);
  const kept: FoundRegionFile[] = [];
  try {
    await mkdir(folder, { recursive: true });
    const stem = photograph.name.replace(/\.[^.]+$/, '');
    for (const [i, { role, person, sure, size, data }] of masks.entries()) {
      if (!lease.held) return;
      const path = join(folder, `${i}.png`);
      await sharp(data, { raw: { ...size, channels: 1 } })
        .toColourspace('b-w')
        .png()
        .toFile(path);
      const options = {
        shootId: photograph.shootId,
        name: `${shorten(`${roleName(role)} of ${stem}`, 200)}.png`,
        isMask: true,
        isFound: true,
      };
      // Under the job's own key: one that is taken again after a crash keeps nothing twice.
      await importPhotograph(db, cache, `found-${job.id}-${i}`, options, path);
      kept.push({ role, person, sure, sha256: await hashFile(path) });
      lease.progress = FINDING + ((1 - FINDING) * kept.length) / masks.length;
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
  if (kept.length > 0) await putInto(db, job, sha256, kept);
  await endJob(db, job.id, lease.holder, { state: 'done', store: async () => null });
}

/** @returns null when the job was called off */
function runFinder(task: ToFinder, lease: Lease): Promise<readonly FoundMask[] | null> {
  return new Promise((resolve, reject) => {
    const thread = new Worker(new URL('./finder.js', import.meta.url), { workerData: task });
    const end = (settle: () => void): void => {
      settle();
      void thread.terminate();
    };
    thread.on('message', (message: FromFinder) => {
      if (!lease.held) end(() => resolve(null));
      else if ('found' in message) end(() => resolve(message.found));
      else lease.progress = FINDING * message.share;
    });
    thread.on('error', (error) => end(() => reject(error)));
    thread.on('exit', () => reject(new Error('The thread that finds regions ended unexpectedly')));
  });
}

/** One step of the edit's history, whatever windows do to it meanwhile. */
async function putInto(db: Database, job: TakenJob, sha256: string, kept: readonly FoundRegionFile[]): Promise<void> {
  const id = `found-${job.id}`;
  let made = 0;
  const newId = (): string => `${id}-${made++}`;
  for (let attempt = 1; ; attempt++) {
    const { document, revision } = await readDocument(db, job.photographId);
    made = 0;
    const { patches, inverse } = edit(document, putFound(document, kept, sha256, FINDER, newId));
    if (patches.length === 0) return;
    const entry = { id, label: `Find regions: ${kept.length} found`, patches, inverse };
    try {
      await changeDocument(db, job.photographId, {
        id,
        database: await databaseId(db),
        base: revision,
        changes: [{ type: 'edit', entry }],
      });
      return;
    } catch (error) {
      if (!(error instanceof Problem) || error.kind !== 'conflict' || attempt === TRIES) throw error;
    }
  }
}
