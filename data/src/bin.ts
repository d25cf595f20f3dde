/** Photographs that were removed from their shoot: kept for a while, so that they can be brought back. */
import { Op, QueryTypes } from 'sequelize';
import { dropUnusedAssets, contentOf } from './assets.ts';
import { inTransaction, type Database } from './database.ts';
import { tell } from './events.ts';
import { Photograph } from './models.ts';
import { dropUnusedLevels, handedOver } from './photographs.ts';
import { findShoot } from './shoots.ts';

/** What lies there for so long goes by itself. */
const BIN_DAYS = 30;

export interface Bin {
  photographs: { id: number; name: string; removedAt: string }[];
  /** What emptying it frees: files that nothing else uses. */
  bytes: number;
}

const filesOf = async (photographs: readonly Photograph[]): Promise<number[]> => [
  ...photographs.map(({ assetId }) => assetId),
  ...(await handedOver(photographs.map(({ id }) => id))),
];

export async function readBin(db: Database, shootId: number): Promise<Bin> {
  await findShoot(shootId);
  const removed = await Photograph.findAll({ where: { shootId, removedAt: { [Op.ne]: null } }, order: [['removedAt', 'DESC']] });
  const [freed] =
    removed.length === 0
      ? []
      : await db.query<{ bytes: number | string | null }>(
          `SELECT SUM(bytes) bytes FROM assets WHERE id IN (:files)
           AND id NOT IN (SELECT assetId FROM photographs WHERE id NOT IN (:ids))
           AND id NOT IN (SELECT assetId FROM mask_pictures)
           AND id NOT IN (SELECT assetId FROM jobs WHERE assetId IS NOT NULL AND (photographId IS NULL OR photographId NOT IN (:ids)))`,
          { replacements: { files: await filesOf(removed), ids: removed.map(({ id }) => id) }, type: QueryTypes.SELECT },
        );
  return {
    photographs: removed.map(({ id, name, removedAt }) => ({ id, name, removedAt: removedAt!.toISOString() })),
    bytes: Number(freed?.bytes ?? 0),
  };
}

/** Removes photographs for good, with their edits, their histories and the files that nothing else uses. */
async function dispose(db: Database, cache: string, photographs: readonly Photograph[]): Promise<void> {
  if (photographs.length === 0) return;
  const files = await filesOf(photographs);
  const content = await contentOf(db, files);
  await inTransaction(db, async (transaction) => {
    await Photograph.destroy({ where: { id: photographs.map(({ id }) => id), removedAt: { [Op.ne]: null } }, transaction });
    await tell(db, 'shoot', [...new Set(photographs.map(({ shootId }) => shootId))], transaction);
    await dropUnusedAssets(db, files, transaction);
  });
  await dropUnusedLevels(db, cache, content);
}

export async function emptyBin(db: Database, cache: string, shootId: number): Promise<void> {
  await findShoot(shootId);
  await dispose(db, cache, await Photograph.findAll({ where: { shootId, removedAt: { [Op.ne]: null } } }));
}

/** Empties bins of what has lain there for long enough. */
export async function sweepBins(db: Database, cache: string): Promise<void> {
  const before = new Date(Date.now() - BIN_DAYS * 24 * 3600 * 1000);
  await dispose(db, cache, await Photograph.findAll({ where: { removedAt: { [Op.lt]: before } } }));
}
