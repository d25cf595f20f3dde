import {
  addPhotograph,
  endJob,
  ensureLevels,
  findPhotographOf,
  keepProfile,
  letGoOfPixels,
  readForImport,
  withAsset,
  type Database,
  type TakenJob,
} from '@umbo/data';
import type { Lease } from './lease.ts';
import type { Pool } from './pool.ts';

/** Decodes an uploaded file and makes a photograph of it, unless it was called off meanwhile. */
export async function importFile(db: Database, cache: string, _pool: Pool, { holder }: Lease, job: TakenJob<'import'>): Promise<void> {
  const { options } = job;
  await withAsset(db, cache, job.assetId!, async (path) => {
    const file = await readForImport(db, cache, path, options.isMask);
    const isThere = await endJob(db, job.id, holder, {
      state: 'done',
      store: async (transaction) => ({ photographId: await addPhotograph(db, options, file, transaction) }),
    });
    if (isThere) await keepProfile(db, options, file);
    else await letGoOfPixels(db, cache, file.sha256);
  });
}

/** Makes the cached pixels of a file again. */
export async function makeLevels(db: Database, cache: string, _pool: Pool, { holder }: Lease, job: TakenJob<'levels'>): Promise<void> {
  const photograph = await findPhotographOf(job.assetId!);
  if (photograph) await ensureLevels(db, cache, photograph.assetId, photograph, job.options);
  await endJob(db, job.id, holder, { state: 'done', store: async () => null });
}
