/** Finding the regions of many photographs: asked for at once, done by the render processes one by one. */
import { ENGINE_VERSION, Problem } from '@umbo/core/base';
import { QueryTypes } from 'sequelize';
import { inTransaction, once, type Database } from './database.ts';
import { tell } from './events.ts';
import type { ReadFile } from './importFile.ts';
import { waitsOf, type Waits } from './jobs.ts';
import { Job, Photograph, type JobState } from './models.ts';
import { addMaskPicture } from './maskPictures.ts';
import { findShoot } from './shoots.ts';

export interface FindingSummary {
  id: number;
  photographId: number;
  photograph: string;
  state: Extract<JobState, 'queued' | 'running' | 'failed'>;
  progress: number;
  error: string | null;
  /** Its place in line, while it waits. */
  waits: Waits | null;
}

/**
 * Has the regions of photographs of a shoot found. One whose regions are being found already is not asked for twice.
 * @param key of the caller; they are asked for once under it
 */
export async function queueFinding(db: Database, key: string, shootId: number, photographIds: readonly number[]): Promise<void> {
  await findShoot(shootId);
  await once(db, key, async (transaction) => {
    const there = await Photograph.count({ where: { id: [...photographIds], shootId }, transaction });
    if (there !== new Set(photographIds).size) throw new Problem('not-found', 'A photograph is not in this shoot (any more).');
    await Job.destroy({ where: { kind: 'find', photographId: [...photographIds], state: ['failed', 'cancelled'] }, transaction });
    await db.query(
      `INSERT INTO jobs (kind, photographId, options, revision, engine, createdAt)
       SELECT 'find', p.id, '{}', 0, ${ENGINE_VERSION}, UTC_TIMESTAMP(3) FROM photographs p
       WHERE p.id IN (:ids) AND NOT EXISTS (SELECT 1 FROM jobs j WHERE j.kind = 'find' AND j.photographId = p.id AND j.state IN ('queued', 'running'))
       ORDER BY p.name, p.id`,
      { replacements: { ids: [...photographIds] }, transaction },
    );
    await tell(db, 'find', [shootId], transaction);
  });
}

/** What is being found in a shoot, what waits for that, and what failed. */
export async function listFinding(db: Database, shootId: number): Promise<FindingSummary[]> {
  await findShoot(shootId);
  const waits = await waitsOf(db, 'find');
  const rows = await db.query<Omit<FindingSummary, 'waits'>>(
    `SELECT j.id, j.photographId, p.name photograph, j.state, j.progress, j.error FROM jobs j JOIN photographs p ON p.id = j.photographId
     WHERE j.kind = 'find' AND p.shootId = $1 AND j.state IN ('queued', 'running', 'failed') ORDER BY j.id`,
    { bind: [shootId], type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({ ...row, waits: waits.get(row.id) ?? null }));
}

/** Stops the finding in a shoot, and forgets what failed; what was found already stays. */
export async function stopFinding(db: Database, shootId: number): Promise<void> {
  const ids = (await listFinding(db, shootId)).map(({ id }) => id);
  await inTransaction(db, async (transaction) => {
    await Job.destroy({ where: { id: ids, kind: 'find' }, transaction });
    await tell(db, 'find', [shootId], transaction);
  });
}

/**
 * Keeps masks that were found, with the shoot that their photograph is in now: all of them, or none.
 * @param key of the caller; they are kept once under it
 */
export const keepFound = (
  db: Database,
  key: string,
  photographId: number,
  files: readonly ReadFile[],
  names: readonly string[],
): Promise<number[]> =>
  once(db, key, async (transaction) => {
    const photograph = await Photograph.findByPk(photographId, { transaction, lock: transaction.LOCK.SHARE });
    if (!photograph) throw new Problem('not-found', 'This photograph does not exist (any more).');
    const ids: number[] = [];
    for (const [i, file] of files.entries()) {
      const options = { shootId: photograph.shootId, name: names[i]!, isFound: true };
      ids.push(await addMaskPicture(db, options, file, transaction));
    }
    return ids;
  });
