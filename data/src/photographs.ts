import { emptyDocument } from '@umbo/core';
import { assetInfo, dropUnusedAssets, hashFile, storeAsset } from './assets.ts';
import { decode } from './decode.ts';
import { dropLevels, writeLevels } from './levels.ts';
import { DocumentRow, Photograph, Shoot, type PhotographState } from './models.ts';
import { Problem } from './problem.ts';
import { inTransaction, type Database } from './database.ts';

export async function findPhotograph(id: number): Promise<Photograph> {
  const photograph = await Photograph.findByPk(id);
  if (!photograph) throw new Problem('not-found', 'This photograph does not exist (any more).');
  return photograph;
}

/**
 * Imports an image file into a shoot: the original is kept as it is, an empty edit begins.
 * @param path a file that the caller removes afterwards
 * @param signal stops before anything is written
 * @param isMask whether it is to serve as a mask only
 * @throws Problem 'refused' for files that cannot be taken; nothing of them is kept
 */
export async function importPhotograph(
  db: Database,
  cache: string,
  shootId: number,
  name: string,
  path: string,
  signal?: AbortSignal,
  isMask = false,
): Promise<Photograph> {
  const decoded = await decode(path);
  const sha256 = await hashFile(path);
  signal?.throwIfAborted();
  await writeLevels(cache, sha256, decoded);
  return inTransaction(db, async (transaction) => {
    if (!(await Shoot.findByPk(shootId, { transaction, lock: transaction.LOCK.SHARE })))
      throw new Problem('not-found', 'This shoot does not exist (any more).');
    const assetId = await storeAsset(db, path, sha256, transaction);
    const { width, height, bits, profile } = decoded;
    const photograph = await Photograph.create({ shootId, assetId, name, width, height, bits, profile, isMask }, { transaction });
    await DocumentRow.create(
      { photographId: photograph.id, revision: 1, position: 0, lastBatch: '', body: JSON.stringify(emptyDocument({ width, height })) },
      { transaction },
    );
    signal?.throwIfAborted();
    return photograph;
  });
}

export async function setPhotographState(id: number, state: PhotographState): Promise<void> {
  const photograph = await findPhotograph(id);
  await photograph.update({ state });
}

/** Removes a photograph with its edit, its history and, when nothing else uses it, the original. */
export async function removePhotograph(db: Database, cache: string, id: number): Promise<void> {
  const photograph = await findPhotograph(id);
  const { sha256 } = await assetInfo(db, photograph.assetId);
  await inTransaction(db, async (transaction) => {
    await photograph.destroy({ transaction });
    await dropUnusedAssets(db, transaction);
  });
  if ((await Photograph.count({ where: { assetId: photograph.assetId } })) === 0) await dropLevels(cache, sha256);
}
