/** From an uploaded file to a photograph. The web process hands the file on; a render process decodes it. */
import { randomUUID } from 'node:crypto';
import { Op } from 'sequelize';
import { dropUnusedAssets, knownContent, storeAsset } from './assets.ts';
import { addProfile } from './profiles.ts';
import { inTransaction, once, type Database } from './database.ts';
import { dropPixels, hashFile, MASK_SPACE, readPicture } from '@umbo/files';
import { Job, Photograph, Shoot } from './models.ts';
import { addPhotograph, findPhotograph } from './photographs.ts';
import { Problem } from '@umbo/core/base';
import type { ImportOptions, ReadFile } from './importFile.ts';
import { findShoot } from './shoots.ts';

/** Reads a file that is to be put into a shoot. @throws Problem 'refused' for files that cannot be taken; nothing of them is kept */
export async function readForImport(db: Database, cache: string, path: string, isMask: boolean): Promise<ReadFile> {
  const sha256 = await hashFile(path);
  try {
    return { path, sha256, picture: await readPicture(cache, path, sha256, isMask ? { space: MASK_SPACE } : {}) };
  } catch (error) {
    await letGoOfPixels(db, cache, sha256);
    throw error;
  }
}

/** Of a file that no photograph came of. */
export async function letGoOfPixels(db: Database, cache: string, sha256: string): Promise<void> {
  if (!(await knownContent(db, [sha256])).has(sha256)) await dropPixels(cache, sha256);
}

/**
 * Imports an image file into a shoot: the original is kept as it is, an empty edit begins.
 * @param key of the caller; the photograph comes into being once under it
 * @param path a file that the caller removes afterwards
 * @throws Problem 'refused' for files that cannot be taken; nothing of them is kept
 */
export async function importPhotograph(db: Database, cache: string, key: string, options: ImportOptions, path: string): Promise<number> {
  await findShoot(options.shootId);
  const file = await readForImport(db, cache, path, options.isMask);
  try {
    const id = await once(db, key, (transaction) => addPhotograph(db, options, file, transaction));
    await keepProfile(db, options, file);
    return id;
  } catch (error) {
    await letGoOfPixels(db, cache, file.sha256);
    throw error;
  }
}

/** The profile of a file stays with the shoot, so that files can be made for it again; one that none can be made for is left aside. */
export async function keepProfile(db: Database, { shootId, isMask }: ImportOptions, { picture: { icc } }: ReadFile): Promise<void> {
  if (!icc || isMask) return;
  try {
    await addProfile(db, randomUUID(), shootId, icc);
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
  }
}

/** Hands a file on to the render processes. @returns the id of the import */
export async function queueImport(db: Database, key: string, options: ImportOptions, path: string): Promise<number> {
  const sha256 = await hashFile(path);
  return once(db, key, async (transaction) => {
    if (!(await Shoot.findByPk(options.shootId, { transaction, lock: transaction.LOCK.SHARE })))
      throw new Problem('not-found', 'This shoot does not exist (any more).');
    const assetId = await storeAsset(db, path, sha256, transaction);
    const job = { kind: 'import' as const, assetId, options: JSON.stringify(options), revision: 0 };
    return (await Job.create(job, { transaction })).id;
  });
}

/**
 * Hands masks on that a browser found on a photograph: what its shoot has already is not made again.
 * @returns for each file its import, and what it holds
 */
export async function queueFound(
  db: Database,
  photographId: number,
  files: readonly { name: string; path: string }[],
): Promise<{ id: number; sha256: string }[]> {
  const { shootId } = await findPhotograph(photographId);
  const hashes = await Promise.all(files.map(({ path }) => hashFile(path)));
  // Together they take turns with files that somebody imports.
  const batchId = `found-${photographId}`;
  return inTransaction(db, async (transaction) => {
    const jobs: { id: number; sha256: string }[] = [];
    for (const [i, { name, path }] of files.entries()) {
      const sha256 = hashes[i]!;
      const assetId = await storeAsset(db, path, sha256, transaction);
      const there = await Photograph.findOne({ where: { shootId, assetId, isMask: true }, transaction });
      const options: ImportOptions = { shootId, name, isMask: true, isFound: true };
      const job = { kind: 'import' as const, assetId, options: JSON.stringify(options), revision: 0, batchId };
      const state = there ? { state: 'done' as const, photographId: there.id } : {};
      jobs.push({ id: (await Job.create({ ...job, ...state }, { transaction })).id, sha256 });
    }
    return jobs;
  });
}

/** What became of an import; null while it is under way. @throws Problem 'refused' when it failed */
export async function importedPhotograph(db: Database, jobId: number): Promise<Photograph | null> {
  const job = await Job.findOne({ where: { id: jobId, kind: 'import' }, attributes: ['state', 'error', 'photographId'] });
  if (!job) throw new Problem('refused', 'The import was called off.');
  if (job.state === 'queued' || job.state === 'running') return null;
  await forgetImport(db, jobId);
  if (job.state === 'done' && job.photographId !== null) return Photograph.findByPk(job.photographId);
  throw new Problem('refused', job.error ?? 'The file could not be read.');
}

/** Ends an import, and lets go of a file that no photograph came of. */
export async function forgetImport(db: Database, jobId: number): Promise<void> {
  await inTransaction(db, async (transaction) => {
    const job = await Job.findOne({ where: { id: jobId, kind: 'import' }, attributes: ['id', 'assetId'], transaction });
    if (!job) return;
    await job.destroy({ transaction });
    await dropUnusedAssets(db, [job.assetId!], transaction);
  });
}

/** Ends imports that nobody waits for any more. */
export async function sweepImports(db: Database): Promise<void> {
  const left = await Job.findAll({ where: { kind: 'import', state: { [Op.notIn]: ['queued', 'running'] } }, attributes: ['id'] });
  for (const { id } of left) await forgetImport(db, id);
}
