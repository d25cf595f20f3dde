import { QueryTypes } from 'sequelize';
import { contentOf, dropUnusedAssets } from './assets.ts';
import { dropUnusedLevels, handedOver } from './photographs.ts';
import { DocumentRow, MaskPictureRow, Photograph, Shoot, type PhotographState } from './models.ts';
import { Problem } from '@umbo/core/base';
import type { CameraFacts } from '@umbo/files';
import type { MaskPicture } from './maskPictures.ts';
import { previewLights } from './previews.ts';
import { inTransaction, once, type Database } from './database.ts';

export interface ShootSummary {
  id: number;
  name: string;
  photographs: number;
  inWork: number;
  done: number;
  /** Up to four photographs for the cover. */
  cover: { id: number; revision: number }[];
}

export async function listShoots(db: Database): Promise<ShootSummary[]> {
  const shoots = await Shoot.findAll({ order: [['id', 'ASC']] });
  const rows = await db.query<{ id: number; shootId: number; state: PhotographState; revision: number }>(
    'SELECT p.id, p.shootId, p.state, d.revision FROM photographs p JOIN documents d ON d.photographId = p.id WHERE p.removedAt IS NULL ORDER BY p.id',
    { type: QueryTypes.SELECT },
  );
  return shoots.map(({ id, name }) => {
    const own = rows.filter((row) => row.shootId === id);
    return {
      id,
      name,
      photographs: own.length,
      inWork: own.filter(({ state }) => state === 'in work').length,
      done: own.filter(({ state }) => state === 'done').length,
      cover: own.slice(0, 4).map((row) => ({ id: row.id, revision: row.revision })),
    };
  });
}

export async function findShoot(id: number): Promise<Shoot> {
  const shoot = await Shoot.findByPk(id);
  if (!shoot) throw new Problem('not-found', 'This shoot does not exist (any more).');
  return shoot;
}

export interface PhotographSummary {
  id: number;
  sha256: string;
  name: string;
  width: number;
  height: number;
  bits: number;
  state: PhotographState;
  revision: number;
  /** When it was taken, by the camera's clock: as ISO 8601 without a zone; null: not known. */
  takenAt: string | null;
  shotWith: CameraFacts;
  /** Mean lightness L* of the edit as its preview shows it; null: there is none yet. */
  light: number | null;
}

export async function readShoot(
  db: Database,
  id: number,
): Promise<{ id: number; name: string; photographs: PhotographSummary[]; masks: MaskPicture[]; removed: number }> {
  const shoot = await findShoot(id);
  const all = await Photograph.findAll({ where: { shootId: id }, order: [['id', 'ASC']] });
  const photographs = all.filter(({ removedAt }) => removedAt === null);
  const masks = await MaskPictureRow.findAll({ where: { shootId: id }, order: [['id', 'ASC']] });
  const documents = await DocumentRow.findAll({
    where: { photographId: photographs.map((p) => p.id) },
    attributes: ['photographId', 'revision'],
  });
  const content = await contentOf(
    db,
    [...photographs, ...masks].map(({ assetId }) => assetId),
  );
  const revisions = new Map(documents.map((d) => [d.photographId, d.revision]));
  const lights = await previewLights(db, id);
  return {
    id,
    name: shoot.name,
    photographs: photographs.map((p) => ({
      id: p.id,
      sha256: content.get(p.assetId)!,
      name: p.name,
      width: p.width,
      height: p.height,
      bits: p.bits,
      state: p.state,
      revision: revisions.get(p.id)!,
      takenAt: p.takenAt?.toISOString().slice(0, 19) ?? null,
      shotWith: JSON.parse(p.shotWith) as CameraFacts,
      light: lights.get(p.id) ?? null,
    })),
    removed: all.filter(({ removedAt }) => removedAt !== null).length,
    masks: masks.map(({ id: mask, assetId, name, width, height, isFound }) => ({
      id: mask,
      sha256: content.get(assetId)!,
      name,
      width,
      height,
      isFound,
    })),
  };
}

/** @param key of the caller; the shoot comes into being once under it */
export async function createShoot(db: Database, key: string, name: string): Promise<{ id: number; name: string }> {
  return once(db, key, async (transaction) => ({ id: (await Shoot.create({ name }, { transaction })).id, name }));
}

export async function renameShoot(id: number, name: string): Promise<void> {
  await findShoot(id);
  await Shoot.update({ name }, { where: { id } });
}

/** Removes a shoot with all its photographs and edits, and frees their pixels. */
export async function removeShoot(db: Database, cache: string, id: number): Promise<void> {
  await findShoot(id);
  const photographs = await Photograph.findAll({ where: { shootId: id }, attributes: ['id', 'assetId'] });
  const masks = await MaskPictureRow.findAll({ where: { shootId: id }, attributes: ['assetId'] });
  const files = [
    ...[...photographs, ...masks].map(({ assetId }) => assetId),
    ...(await handedOver(photographs.map((photograph) => photograph.id))),
  ];
  const content = await contentOf(db, files);
  await inTransaction(db, async (transaction) => {
    await Shoot.destroy({ where: { id }, transaction });
    await dropUnusedAssets(db, files, transaction);
  });
  await dropUnusedLevels(db, cache, content);
}
