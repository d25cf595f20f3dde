import {
  endJob,
  ensureLevels,
  keepProfile,
  letGoOfPixels,
  readForImport,
  sizeOfFile,
  storeImport,
  withAsset,
  type Database,
  type TakenJob,
} from '@umbo/data';
import type { Lease } from './lease.ts';
import type { Pool } from './pool.ts';

/** Decodes an uploaded file and puts it into its shoot, unless it was called off meanwhile. */
export async function importFile(db: Database, cache: string, _pool: Pool, { holder }: Lease, job: TakenJob<'import'>): Promise<void> {
  const { options } = job;
  await withAsset(db, cache, job.assetId!, async (path) => {
    const file = await readForImport(db, cache, path, options.isMask);
    const isThere = await endJob(db, job.id, holder, {
      state: 'done',
      store: (transaction) => storeImport(db, options, file, transaction),
    });
    if (!isThere) await letGoOfPixels(db, cache, file.sha256);
    else if (!options.isMask) await keepProfile(db, options.shootId, file);
  });
}

/** Makes the cached pixels of a file again. */
export async function makeLevels(db: Database, cache: string, _pool: Pool, { holder }: Lease, job: TakenJob<'levels'>): Promise<void> {
  const size = await sizeOfFile(db, job.assetId!);
  if (size) await ensureLevels(db, cache, job.assetId!, size, job.options);
  await endJob(db, job.id, holder, { state: 'done', store: async () => null });
}
