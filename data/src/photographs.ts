import { emptyDocument } from '@umbo/core/document';
import { Op, QueryTypes, type Transaction } from 'sequelize';
import { assetInfo, contentOf, storeAsset } from './assets.ts';
import { inTransaction, type Database } from './database.ts';
import { tell } from './events.ts';
import type { ImportOptions, ReadFile } from './importFile.ts';
import { dropPixels } from '@umbo/files';
import { storeMetadata } from './metadata.ts';
import { DocumentRow, Job, MaskPictureRow, Photograph, Shoot, type PhotographState } from './models.ts';
import { Problem } from '@umbo/core/base';

export async function findPhotograph(id: number): Promise<Photograph> {
  const photograph = await Photograph.findByPk(id);
  if (!photograph) throw new Problem('not-found', 'This photograph does not exist (any more).');
  return photograph;
}

/**
 * Puts an image file into a shoot: the original is kept as it is, an empty edit begins.
 * @returns the photograph's id
 */
export async function addPhotograph(
  db: Database,
  { shootId, name }: Pick<ImportOptions, 'shootId' | 'name'>,
  { path, sha256, picture: { width, height, bits, profile, space, takenAt, shotWith, blocks } }: ReadFile,
  transaction: Transaction,
): Promise<number> {
  if (!(await Shoot.findByPk(shootId, { transaction, lock: transaction.LOCK.SHARE })))
    throw new Problem('not-found', 'This shoot does not exist (any more).');
  const assetId = await storeAsset(db, path, sha256, transaction);
  await storeMetadata(db, assetId, blocks, transaction);
  const facts = { width, height, bits, profile, takenAt, shotWith: JSON.stringify(shotWith) };
  const photograph = await Photograph.create({ shootId, assetId, name, ...facts }, { transaction });
  const body = JSON.stringify(emptyDocument({ width, height }, space));
  await DocumentRow.create({ photographId: photograph.id, revision: 1, position: 0, body }, { transaction });
  await tell(db, 'shoot', [shootId], transaction);
  return photograph.id;
}

/** What is done to many photographs at once. */
export type PhotographChange = { state: PhotographState } | { removed: boolean };

/** @throws Problem 'not-found' when one of them is not there (any more); then nothing is changed */
export async function changePhotographs(db: Database, ids: readonly number[], change: PhotographChange): Promise<void> {
  await inTransaction(db, async (transaction) => {
    const photographs = await Photograph.findAll({ where: { id: [...ids] }, transaction, lock: transaction.LOCK.UPDATE });
    if (photographs.length !== new Set(ids).size) throw new Problem('not-found', 'A photograph does not exist (any more).');
    const values = 'state' in change ? { state: change.state } : { removedAt: change.removed ? new Date() : null };
    await Photograph.update(values, { where: { id: [...ids] }, transaction });
    await tell(db, 'shoot', [...new Set(photographs.map(({ shootId }) => shootId))], transaction);
  });
}

export async function renamePhotograph(db: Database, id: number, name: string): Promise<void> {
  const { shootId } = await findPhotograph(id);
  await inTransaction(db, async (transaction) => {
    await Photograph.update({ name }, { where: { id }, transaction });
    await tell(db, 'shoot', [shootId], transaction);
  });
}

/**
 * Moves photographs to another shoot, and copies there what their edits, histories and versions show: masks that were found or imported.
 * Other photographs that a layer shows stay where they are; the layer says that it misses them.
 */
export async function movePhotographs(db: Database, ids: readonly number[], shootId: number): Promise<void> {
  await inTransaction(db, async (transaction) => {
    if (!(await Shoot.findByPk(shootId, { transaction, lock: transaction.LOCK.SHARE })))
      throw new Problem('not-found', 'This shoot does not exist (any more).');
    const photographs = await Photograph.findAll({ where: { id: [...ids] }, transaction, lock: transaction.LOCK.UPDATE });
    if (photographs.length !== new Set(ids).size) throw new Problem('not-found', 'A photograph does not exist (any more).');
    const from = [...new Set(photographs.map((one) => one.shootId))].filter((id) => id !== shootId);
    if (from.length === 0) return;
    const masks = await db.query<{ id: number }>(
      `SELECT DISTINCT m.id FROM content_names n JOIN assets a ON a.sha256 = n.sha256 JOIN mask_pictures m ON m.assetId = a.id
       WHERE n.owner IN (:owners) AND m.shootId IN (:from)
       AND m.assetId NOT IN (SELECT assetId FROM mask_pictures WHERE shootId = :shootId)`,
      { replacements: { from, shootId, owners: ids.map((id) => `photograph-${id}`) }, type: QueryTypes.SELECT, transaction },
    );
    const shown = await MaskPictureRow.findAll({ where: { id: masks.map(({ id }) => id) }, transaction });
    for (const { assetId, name, width, height, isFound } of shown)
      await MaskPictureRow.create({ shootId, assetId, name, width, height, isFound }, { transaction });
    await Photograph.update({ shootId }, { where: { id: [...ids] }, transaction });
    await tell(db, 'shoot', [...from, shootId], transaction);
  });
}

/** The files that were handed over of photographs: they go with them. */
export async function handedOver(photographIds: readonly number[]): Promise<number[]> {
  const jobs = await Job.findAll({ where: { photographId: [...photographIds], assetId: { [Op.ne]: null } }, attributes: ['assetId'] });
  return jobs.map(({ assetId }) => assetId!);
}

/** Frees the cached pixels of what is gone. */
export async function dropUnusedLevels(db: Database, cache: string, content: ReadonlyMap<number, string>): Promise<void> {
  const left = await contentOf(db, [...content.keys()]);
  for (const [assetId, sha256] of content) if (!left.has(assetId)) await dropPixels(cache, sha256);
}

/** The content of the file of a photograph or a mask. */
export async function photographContent(db: Database, photograph: { readonly assetId: number }): Promise<string> {
  return (await assetInfo(db, photograph.assetId)).sha256;
}

/** The names of other photographs of the shoot with the same content. */
export async function sameContent({ id, shootId, assetId }: Photograph): Promise<string[]> {
  const same = await Photograph.findAll({
    where: { shootId, assetId, removedAt: null, id: { [Op.ne]: id } },
    attributes: ['name'],
  });
  return same.map(({ name }) => name);
}
