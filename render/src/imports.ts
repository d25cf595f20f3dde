import {
  endJob,
  ensureLevels,
  findPhotographOf,
  importPhotograph,
  withAsset,
  type Database,
  type ImportOptions,
  type PixelsOf,
  type TakenJob,
} from '@umbo/data';
import type { Lease } from './lease.ts';
import type { Pool } from './pool.ts';

/** Decodes an uploaded file and makes a photograph of it. */
export async function importFile(db: Database, cache: string, _pool: Pool, { holder }: Lease, job: TakenJob): Promise<void> {
  const options = job.options as unknown as ImportOptions;
  // Under the job's own key: one that is taken again after a crash makes no second photograph.
  const photographId = await withAsset(db, cache, job.assetId!, (path) => importPhotograph(db, cache, `import-${job.id}`, options, path));
  await endJob(db, job.id, holder, { state: 'done', store: async () => ({ photographId }) });
}

/** Makes the cached pixels of a file again. */
export async function makeLevels(db: Database, cache: string, _pool: Pool, { holder }: Lease, job: TakenJob): Promise<void> {
  const photograph = await findPhotographOf(job.assetId!);
  const how = job.options as unknown as Omit<PixelsOf, 'sha256'>;
  if (photograph) await ensureLevels(db, cache, photograph.assetId, photograph, how);
  await endJob(db, job.id, holder, { state: 'done', store: async () => null });
}
