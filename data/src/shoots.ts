import { QueryTypes } from 'sequelize';
import { dropUnusedAssets } from './assets.ts';
import { DocumentRow, Photograph, Shoot, type PhotographState } from './models.ts';
import { Problem } from './problem.ts';
import { inTransaction, type Database } from './database.ts';

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
    'SELECT p.id, p.shootId, p.state, d.revision FROM photographs p JOIN documents d ON d.photographId = p.id WHERE NOT p.isMask ORDER BY p.id',
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

/** An imported mask. */
export interface MaskPicture {
  id: number;
  name: string;
  width: number;
  height: number;
}

export interface PhotographSummary {
  id: number;
  name: string;
  width: number;
  height: number;
  bits: number;
  state: PhotographState;
  revision: number;
}

export async function readShoot(id: number): Promise<{ id: number; name: string; photographs: PhotographSummary[]; masks: MaskPicture[] }> {
  const shoot = await Shoot.findByPk(id);
  if (!shoot) throw new Problem('not-found', 'This shoot does not exist (any more).');
  const all = await Photograph.findAll({ where: { shootId: id }, order: [['id', 'ASC']] });
  const photographs = all.filter(({ isMask }) => !isMask);
  const documents = await DocumentRow.findAll({
    where: { photographId: photographs.map((p) => p.id) },
    attributes: ['photographId', 'revision'],
  });
  const revisions = new Map(documents.map((d) => [d.photographId, d.revision]));
  return {
    id,
    name: shoot.name,
    photographs: photographs.map((p) => ({
      id: p.id,
      name: p.name,
      width: p.width,
      height: p.height,
      bits: p.bits,
      state: p.state,
      revision: revisions.get(p.id)!,
    })),
    masks: all.filter(({ isMask }) => isMask).map(({ id: mask, name, width, height }) => ({ id: mask, name, width, height })),
  };
}

export async function createShoot(name: string): Promise<Shoot> {
  return Shoot.create({ name });
}

export async function renameShoot(id: number, name: string): Promise<void> {
  await readShoot(id);
  await Shoot.update({ name }, { where: { id } });
}

/** Removes a shoot with all its photographs and edits. */
export async function removeShoot(db: Database, id: number): Promise<void> {
  await readShoot(id);
  await inTransaction(db, async (transaction) => {
    await Shoot.destroy({ where: { id }, transaction });
    await dropUnusedAssets(db, transaction);
  });
}
