/** Work for the render processes: taken with a lease, so that a job of a process that died is taken again. */
import { shorten } from '@umbo/core/base';
import type { UmboDocument } from '@umbo/core/document';
import { ENGINE_VERSION } from '@umbo/core/render';
import { QueryTypes, type Transaction } from 'sequelize';
import { tell } from './events.ts';
import type { HandOverOptions } from './handOver/handOvers.ts';
import { Job, Photograph, type JobKind } from './models.ts';
import { previewRevisions } from './previews.ts';
import { inTransaction, type Database } from './database.ts';
import type { PixelsOf } from './levels.ts';

const LEASE_SECONDS = 15;
/** A job that took so many processes down with it is not tried again. */
const ATTEMPTS = 3;

/** How many may ask for a job at once and each get one. */
const ASKERS = 16;

/** Previews that nobody has asked for again by then are not made. */
const WANTED_SECONDS = 10;

/**
 * Asks for previews of edits; to be asked again while they are in sight.
 * @param wanted photographs, each with the revision that is to be seen
 * @returns those that are there, with the revision that they show
 */
export async function wantPreviews(
  db: Database,
  wanted: readonly { id: number; revision: number }[],
): Promise<{ id: number; revision: number }[]> {
  if (wanted.length === 0) return [];
  const ready = await previewRevisions(
    db,
    wanted.map(({ id }) => id),
  );
  const there = new Map(ready.map(({ id, revision }) => [id, revision]));
  const missing = wanted.filter(({ id, revision }) => (there.get(id) ?? 0) < revision).map(({ id }) => id);
  if (missing.length === 0) return ready;
  await inTransaction(db, async (transaction) => {
    const replacements = { missing };
    await db.query(
      "UPDATE jobs SET createdAt = UTC_TIMESTAMP(3) WHERE kind = 'preview' AND state = 'queued' AND photographId IN (:missing)",
      { replacements, transaction },
    );
    // One that failed is not tried again before the edit is another.
    await db.query(
      `INSERT INTO jobs (kind, photographId, options, document, revision, engine, createdAt)
       SELECT 'preview', d.photographId, '{}', '{}', d.revision, ${ENGINE_VERSION}, UTC_TIMESTAMP(3) FROM documents d
       WHERE d.photographId IN (:missing) AND NOT EXISTS (SELECT 1 FROM jobs j WHERE j.kind = 'preview' AND j.photographId = d.photographId
         AND (j.state IN ('queued', 'running') OR (j.state = 'failed' AND j.revision = d.revision)))`,
      { replacements, transaction },
    );
  });
  return ready;
}

/** Has the cached pixels of a file made again. */
export async function wantLevels(db: Database, assetId: number, { space, readAs }: Omit<PixelsOf, 'sha256'>): Promise<void> {
  await db.query(
    `INSERT INTO jobs (kind, options, document, revision, engine, assetId, createdAt)
     SELECT 'levels', $2, '{}', 0, ${ENGINE_VERSION}, $1, UTC_TIMESTAMP(3) FROM assets WHERE id = $1 AND NOT EXISTS
       (SELECT 1 FROM jobs WHERE kind = 'levels' AND assetId = $1 AND options = $2 AND state IN ('queued', 'running'))`,
    { bind: [assetId, JSON.stringify({ space, readAs })] },
  );
}

export interface TakenJob {
  id: number;
  kind: JobKind;
  /** The photograph that it is of; 0 for what is of a file alone. */
  photographId: number;
  /** The file that it is of. */
  assetId: number | null;
  options: HandOverOptions;
  document: UmboDocument;
  revision: number;
  /** What it was asked for with; null: it stands alone. */
  batchId: string | null;
}

const FREE = "engine <= :engine AND (state = 'queued' OR (state = 'running' AND leaseUntil < UTC_TIMESTAMP(3)))";

/** Kinds of which jobs wait. One look for all who would take one: asking is nearly all that is done. */
export async function waitingKinds(db: Database): Promise<Set<JobKind>> {
  const rows = await db.query<{ kind: JobKind }>(`SELECT DISTINCT kind FROM jobs WHERE ${FREE}`, {
    replacements: { engine: ENGINE_VERSION },
    type: QueryTypes.SELECT,
  });
  return new Set(rows.map(({ kind }) => kind));
}

/**
 * Takes the next job of one of the kinds. It is looked for without locks and then locked by its id: a locking read that sorts
 * would lock all that waits, and whoever asks at the same time would find nothing.
 * @param engine what the taker can do: jobs for a newer engine are left for those who have it
 * @returns null when nothing waits
 */
export async function takeJob(db: Database, holder: string, kinds: readonly JobKind[], engine = ENGINE_VERSION): Promise<TakenJob | null> {
  const replacements = { kinds, holder, engine };
  const free = `kind IN (:kinds) AND ${FREE}`;
  // After the last one nothing waits: then there is no transaction.
  const [any] = await db.query(`SELECT 1 FROM jobs WHERE ${free} LIMIT 1`, { replacements, type: QueryTypes.SELECT });
  if (!any) return null;
  return inTransaction(db, async (transaction) => {
    await db.query(
      `UPDATE jobs SET state = 'failed', endedAt = UTC_TIMESTAMP(3), error = 'Rendering was interrupted several times.'
       WHERE state = 'running' AND leaseUntil < UTC_TIMESTAMP(3) AND attempts >= ${ATTEMPTS}`,
      { transaction },
    );
    if (kinds.includes('preview'))
      await db.query(
        `DELETE FROM jobs WHERE kind = 'preview' AND state = 'queued' AND createdAt < UTC_TIMESTAMP(3) - INTERVAL ${WANTED_SECONDS} SECOND`,
        { transaction },
      );
    const select = { type: QueryTypes.SELECT as const, transaction };
    const next = await db.query<{ id: number }>(`SELECT id FROM jobs WHERE ${free} ORDER BY urgent DESC, id LIMIT ${ASKERS}`, {
      ...select,
      replacements,
    });
    let row: { id: number } | undefined;
    for (const { id } of next) {
      // Raw, because Sequelize leaves SKIP LOCKED out for this dialect.
      const locked = `SELECT id FROM jobs WHERE id = :id AND ${free} FOR UPDATE SKIP LOCKED`;
      [row] = await db.query<{ id: number }>(locked, { ...select, replacements: { ...replacements, id } });
      if (row) break;
    }
    if (!row) return null;
    await db.query(
      `UPDATE jobs SET state = 'running', progress = 0, attempts = attempts + 1, leaseHolder = $2, leaseUntil = UTC_TIMESTAMP(3) + INTERVAL ${LEASE_SECONDS} SECOND WHERE id = $1`,
      { bind: [row.id, holder], transaction },
    );
    const job = (await Job.findByPk(row.id, { transaction }))!;
    await tellOf(db, job, transaction);
    return {
      id: job.id,
      kind: job.kind,
      photographId: job.photographId ?? 0,
      assetId: job.assetId,
      options: JSON.parse(job.options) as HandOverOptions,
      document: JSON.parse(job.document) as UmboDocument,
      revision: job.revision,
      batchId: job.batchId,
    };
  });
}

/** Hand-overs are watched by whoever waits for them, what is found and carried by who looks at the shoot. */
const tellOf = async (
  db: Database,
  { id, kind, photographId }: Pick<Job, 'id' | 'kind' | 'photographId'>,
  transaction: Transaction,
): Promise<void> => {
  if (kind === 'hand-over') await tell(db, kind, [id], transaction);
  if (kind !== 'find' && kind !== 'carry') return;
  const photograph = await Photograph.findByPk(photographId!, { attributes: ['shootId'], transaction });
  if (photograph) await tell(db, kind, [photograph.shootId], transaction);
};

/** Renews the lease and tells the progress, if there is one to tell. @returns false when the job was cancelled or belongs to someone else now */
export async function renewJob(db: Database, id: number, holder: string, progress: number | null): Promise<boolean> {
  return inTransaction(db, async (transaction) => {
    const [row] = await db.query<Pick<Job, 'id' | 'kind' | 'progress' | 'photographId'>>(
      `SELECT id, kind, progress, photographId FROM jobs WHERE id = $1 AND state = 'running' AND leaseHolder = $2 FOR UPDATE`,
      {
        bind: [id, holder],
        type: QueryTypes.SELECT,
        transaction,
      },
    );
    if (!row) return false;
    if (progress !== null && progress !== row.progress) await tellOf(db, row, transaction);
    await db.query(
      `UPDATE jobs SET progress = COALESCE($2, progress), leaseUntil = UTC_TIMESTAMP(3) + INTERVAL ${LEASE_SECONDS} SECOND WHERE id = $1`,
      {
        bind: [id, progress],
        transaction,
      },
    );
    return true;
  });
}

/** Gives a job back that could not be done through no fault of its own; it does not count as a try. */
export async function releaseJob(db: Database, id: number, holder: string): Promise<void> {
  await inTransaction(db, (transaction) =>
    db.query(
      `UPDATE jobs SET state = 'queued', leaseHolder = NULL, leaseUntil = NULL, attempts = GREATEST(attempts, 1) - 1
       WHERE id = $1 AND state = 'running' AND leaseHolder = $2`,
      { bind: [id, holder], transaction },
    ),
  );
}

export type JobEnd =
  | { state: 'failed'; error: string }
  | {
      state: 'done';
      /** Stores the result in the same transaction. @returns what the job's row is to hold of it; null: nothing, the row goes */
      store: (transaction: Transaction) => Promise<{ assetId?: number; photographId?: number; outcome?: string } | null>;
    };

/** Ends a job of this holder. @returns false, with nothing written, when the job is not this holder's any more */
export async function endJob(db: Database, id: number, holder: string, end: JobEnd): Promise<boolean> {
  return inTransaction(db, async (transaction) => {
    const job = await Job.findOne({ where: { id, state: 'running', leaseHolder: holder }, transaction, lock: transaction.LOCK.UPDATE });
    if (!job) return false;
    await tellOf(db, job, transaction);
    if (end.state === 'failed') {
      await job.update({ state: 'failed', error: shorten(end.error, 500), endedAt: new Date() }, { transaction });
      return true;
    }
    const result = await end.store(transaction);
    if (result) await job.update({ state: 'done', progress: 1, endedAt: new Date(), ...result }, { transaction });
    else await job.destroy({ transaction });
    return true;
  });
}
