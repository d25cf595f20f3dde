import { emptyDocument } from '@umbo/core/document';
import { Op, QueryTypes } from 'sequelize';
import { assetInfo, contentOf, dropUnusedAssets, storeAsset } from './assets.ts';
import { inTransaction, once, type Database } from './database.ts';
import type { PictureFacts } from './decode.ts';
import { tell } from './events.ts';
import { dropLevels } from './levels.ts';
import { DocumentRow, Job, Photograph, Shoot, type PhotographState } from './models.ts';
import { Problem } from './problem.ts';

export async function findPhotograph(id: number): Promise<Photograph> {
  const photograph = await Photograph.findByPk(id);
  if (!photograph) throw new Problem('not-found', 'This photograph does not exist (any more).');
  return photograph;
}

/** A photograph of a file; null when there is none any more. */
export const findPhotographOf = (assetId: number): Promise<Photograph | null> => Photograph.findOne({ where: { assetId } });

/**
 * Puts an image file into a shoot: the original is kept as it is, an empty edit begins.
 * @param key of the caller; the photograph comes into being once under it
 * @param path a file that the caller removes afterwards
 * @param facts of its pixels, which the caller has decoded
 * @param isMask whether it is to serve as a mask only
 * @returns the photograph's id
 */
export async function addPhotograph(
  db: Database,
  key: string,
  shootId: number,
  file: { name: string; path: string; sha256: string; isMask: boolean; isFound: boolean },
  { width, height, bits, profile }: PictureFacts,
): Promise<number> {
  return once(db, key, async (transaction) => {
    if (!(await Shoot.findByPk(shootId, { transaction, lock: transaction.LOCK.SHARE })))
      throw new Problem('not-found', 'This shoot does not exist (any more).');
    const assetId = await storeAsset(db, file.path, file.sha256, transaction);
    const photograph = await Photograph.create(
      { shootId, assetId, name: file.name, width, height, bits, profile, isMask: file.isMask, isFound: file.isFound },
      { transaction },
    );
    await DocumentRow.create(
      { photographId: photograph.id, revision: 1, position: 0, body: JSON.stringify(emptyDocument({ width, height })) },
      { transaction },
    );
    await tell(db, 'shoot', [shootId], transaction);
    return photograph.id;
  });
}

export async function setPhotographState(id: number, state: PhotographState): Promise<void> {
  const photograph = await findPhotograph(id);
  await photograph.update({ state });
}

/** Removes a photograph with its edit, its history and, when nothing else uses it, the original. */
export async function removePhotograph(db: Database, cache: string, id: number): Promise<void> {
  const { assetId, shootId } = await findPhotograph(id);
  const files = [assetId, ...(await handedOver([id]))];
  const content = await contentOf(db, files);
  await inTransaction(db, async (transaction) => {
    await Photograph.destroy({ where: { id }, transaction });
    await tell(db, 'shoot', [shootId], transaction);
    await dropUnusedAssets(db, files, transaction);
  });
  await dropUnusedLevels(db, cache, content);
}

/** The files that were handed over of photographs: they go with them. */
export async function handedOver(photographIds: readonly number[]): Promise<number[]> {
  const jobs = await Job.findAll({ where: { photographId: [...photographIds], assetId: { [Op.ne]: null } }, attributes: ['assetId'] });
  return jobs.map(({ assetId }) => assetId!);
}

/** Frees the cached pixels of what is gone. */
export async function dropUnusedLevels(db: Database, cache: string, content: ReadonlyMap<number, string>): Promise<void> {
  const left = await contentOf(db, [...content.keys()]);
  for (const [assetId, sha256] of content) if (!left.has(assetId)) await dropLevels(cache, sha256);
}

/** The content of a photograph's file. */
export async function photographContent(db: Database, photograph: Photograph): Promise<string> {
  return (await assetInfo(db, photograph.assetId)).sha256;
}

/** A photograph or mask of a shoot by the content of its file; null where there is none. Of several with the same, whichever came first. */
export async function photographWithContent(db: Database, shootId: number, sha256: string): Promise<Photograph | null> {
  const [found] = await db.query<{ id: number }>(
    'SELECT p.id FROM photographs p JOIN assets a ON a.id = p.assetId WHERE p.shootId = $1 AND a.sha256 = $2 ORDER BY p.id LIMIT 1',
    { bind: [shootId, sha256], type: QueryTypes.SELECT },
  );
  return found ? Photograph.findByPk(found.id) : null;
}
