/** From an uploaded file to a photograph. The web process hands the file on; a render process decodes it. */
import { randomUUID } from 'node:crypto';
import { Op, type Transaction } from 'sequelize';
import { dropUnusedAssets, knownContent, storeAsset } from './assets.ts';
import { addProfile } from './profiles.ts';
import { inTransaction, once, type Database } from './database.ts';
import { dropPixels, hashFile, MASK_SPACE, readPicture } from '@umbo/files';
import { addMaskPicture } from './maskPictures.ts';
import { Job, MaskPictureRow, Photograph, Shoot } from './models.ts';
import { addPhotograph, findPhotograph, photographContent, sameContent } from './photographs.ts';
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
export async function importPhotograph(
  db: Database,
  cache: string,
  key: string,
  options: Omit<ImportOptions, 'isMask' | 'isFound'>,
  path: string,
): Promise<number> {
  await findShoot(options.shootId);
  const file = await readForImport(db, cache, path, false);
  try {
    const id = await once(db, key, (transaction) => addPhotograph(db, options, file, transaction));
    await keepProfile(db, options.shootId, file);
    return id;
  } catch (error) {
    await letGoOfPixels(db, cache, file.sha256);
    throw error;
  }
}

/** The profile of a file stays with the shoot, so that files can be made for it again; one that none can be made for is left aside. */
export async function keepProfile(db: Database, shootId: number, { picture: { icc } }: ReadFile): Promise<void> {
  if (!icc) return;
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
      const there = await MaskPictureRow.findOne({ where: { shootId, assetId }, transaction });
      const options: ImportOptions = { shootId, name, isMask: true, isFound: true };
      const job = { kind: 'import' as const, assetId, options: JSON.stringify(options), revision: 0, batchId };
      const state = there ? { state: 'done' as const, maskPictureId: there.id } : {};
      jobs.push({ id: (await Job.create({ ...job, ...state }, { transaction })).id, sha256 });
    }
    return jobs;
  });
}

/** Puts a file that was read into its shoot. @returns what the row of its job is to hold */
export async function storeImport(
  db: Database,
  { isMask, ...options }: ImportOptions,
  file: ReadFile,
  transaction: Transaction,
): Promise<{ photographId: number } | { maskPictureId: number }> {
  return isMask
    ? { maskPictureId: await addMaskPicture(db, options, file, transaction) }
    : { photographId: await addPhotograph(db, options, file, transaction) };
}

/** What an import became: a photograph, or a mask. */
export interface Imported {
  id: number;
  sha256: string;
  width: number;
  height: number;
  /** Names of other photographs of the shoot with the same content. */
  same: string[];
}

/** What became of an import; null while it is under way. @throws Problem 'refused' when it failed */
export async function importedPicture(db: Database, jobId: number): Promise<Imported | null> {
  const attributes = ['state', 'error', 'photographId', 'maskPictureId'];
  const job = await Job.findOne({ where: { id: jobId, kind: 'import' }, attributes });
  if (!job) throw new Problem('refused', 'The import was called off.');
  if (job.state === 'queued' || job.state === 'running') return null;
  await forgetImport(db, jobId);
  const photograph = job.photographId === null ? null : await Photograph.findByPk(job.photographId);
  const picture = photograph ?? (job.maskPictureId === null ? null : await MaskPictureRow.findByPk(job.maskPictureId));
  if (job.state === 'done' && picture) {
    const { id, width, height } = picture;
    return { id, sha256: await photographContent(db, picture), width, height, same: photograph ? await sameContent(photograph) : [] };
  }
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
