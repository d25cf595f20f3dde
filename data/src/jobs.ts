/** Work for the render processes: taken with a lease, so that a job of a process that died is taken again. */
import { shorten, ENGINE_VERSION } from '@umbo/core/base';
import { QueryTypes, type Transaction } from 'sequelize';
import { tell } from './events.ts';
import { byTurn, placesInLine, queueName, type Queue, type Turns } from './fairness.ts';
import { jobFacts, type JobKind, type ToldKind } from './jobKinds.ts';
import type { JobOptions } from './jobOptions.ts';
import { Job, Photograph } from './models.ts';
import { previewRevisions } from './previews.ts';
import { inTransaction, type Database } from './database.ts';
import type { PixelsOf } from '@umbo/files';

const LEASE_SECONDS = 15;
/** A job that took so many processes down with it is not tried again. */
const ATTEMPTS = 3;

/** How many may ask for a job of a queue at once and each get one. */
const ASKERS = 16;

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
      `INSERT INTO jobs (kind, photographId, options, revision, engine, createdAt)
       SELECT 'preview', d.photographId, '{}', d.revision, ${ENGINE_VERSION}, UTC_TIMESTAMP(3) FROM documents d
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
    `INSERT INTO jobs (kind, options, revision, engine, assetId, createdAt)
     SELECT 'levels', $2, 0, ${ENGINE_VERSION}, $1, UTC_TIMESTAMP(3) FROM assets WHERE id = $1 AND NOT EXISTS
       (SELECT 1 FROM jobs WHERE kind = 'levels' AND assetId = $1 AND options = $2 AND state IN ('queued', 'running'))`,
    { bind: [assetId, JSON.stringify({ space, readAs })] },
  );
}

export interface TakenJob<K extends JobKind = JobKind> {
  id: number;
  kind: K;
  /** The photograph that it is of; 0 for what is of a file alone. */
  photographId: number;
  /** The file that it is of. */
  assetId: number | null;
  options: JobOptions<K>;
  revision: number;
  /** What it was asked for with; null: it stands alone. */
  batchId: string | null;
}

const FREE = "j.engine <= :engine AND (j.state = 'queued' OR (j.state = 'running' AND j.leaseUntil < UTC_TIMESTAMP(3)))";

/** The jobs that one loop takes. */
export interface Lane<K extends JobKind = JobKind> {
  readonly kind: K;
  /** Whether it takes only what somebody waits for; left out: anything. */
  readonly onlyUrgent?: boolean;
}

const inLane = ({ onlyUrgent = false }: Lane): string => `j.kind = :kind AND ${FREE}${onlyUrgent ? ' AND j.urgent' : ''}`;

/** Kinds of which jobs wait, and whether somebody waits for one of them. One look for all who would take one: asking is nearly all that is done. */
export async function waitingKinds(db: Database): Promise<Map<JobKind, boolean>> {
  const rows = await db.query<{ kind: JobKind; urgent: number }>(
    `SELECT j.kind, MAX(j.urgent) urgent FROM jobs j WHERE ${FREE} GROUP BY j.kind`,
    {
      replacements: { engine: ENGINE_VERSION },
      type: QueryTypes.SELECT,
    },
  );
  return new Map(rows.map(({ kind, urgent }) => [kind, Number(urgent) === 1]));
}

const SHOOT = "COALESCE(p.shootId, JSON_VALUE(j.options, '$.shootId'), 0)";

/** The queues of a lane and their turns. */
async function queuesOf(db: Database, lane: Lane, engine: number): Promise<{ queues: Queue[]; turns: Turns }> {
  const replacements = { kind: lane.kind, engine };
  const select = { replacements, type: QueryTypes.SELECT as const };
  const rows = await db.query<{ shoot: string | number; batch: string; waiting: number; first: number }>(
    `SELECT ${SHOOT} shoot, COALESCE(j.batchId, '') batch, COUNT(*) waiting, MIN(j.id) first
     FROM jobs j LEFT JOIN photographs p ON p.id = j.photographId WHERE ${inLane(lane)} GROUP BY 1, 2`,
    select,
  );
  const running = await db.query<{ shoot: string | number; running: number }>(
    `SELECT ${SHOOT} shoot, COUNT(*) running FROM jobs j LEFT JOIN photographs p ON p.id = j.photographId
     WHERE j.kind = :kind AND j.state = 'running' AND j.leaseUntil >= UTC_TIMESTAMP(3) GROUP BY 1`,
    select,
  );
  const last = await db.query<{ queue: string; turn: number | string }>(
    'SELECT queue, UNIX_TIMESTAMP(takenAt) turn FROM turns WHERE lane = :kind',
    select,
  );
  return {
    queues: rows.map(({ shoot, batch, waiting, first }) => ({ shoot: String(shoot), batch, waiting: Number(waiting), first })),
    turns: {
      running: new Map(running.map((row) => [String(row.shoot), Number(row.running)])),
      last: new Map(last.map(({ queue, turn }) => [queue, Number(turn)])),
    },
  };
}

/**
 * Takes the next job of a lane: shoots take turns, and within a shoot batches and what stands alone. It is looked for without locks and then
 * locked by its id: a locking read that sorts would lock all that waits, and whoever asks at the same time would find nothing.
 * @param engine what the taker can do: jobs for a newer engine are left for those who have it
 * @returns null when nothing waits
 */
export async function takeJob<K extends JobKind>(
  db: Database,
  holder: string,
  lane: Lane<K>,
  engine = ENGINE_VERSION,
): Promise<TakenJob<K> | null> {
  const replacements = { kind: lane.kind, engine };
  const free = inLane(lane);
  // After the last one nothing waits: then there is no transaction.
  const [any] = await db.query(`SELECT 1 FROM jobs j WHERE ${free} LIMIT 1`, { replacements, type: QueryTypes.SELECT });
  if (!any) return null;
  await giveUp(db);
  const { wantedSeconds } = jobFacts(lane.kind);
  if (wantedSeconds !== null)
    await db.query(
      `DELETE FROM jobs WHERE kind = :kind AND state = 'queued' AND createdAt < UTC_TIMESTAMP(3) - INTERVAL ${wantedSeconds} SECOND`,
      { replacements },
    );
  return inTransaction(db, async (transaction) => {
    const select = { type: QueryTypes.SELECT as const, transaction };
    const { queues, turns } = await queuesOf(db, lane, engine);
    for (const queue of byTurn(queues, turns)) {
      const next = await db.query<{ id: number }>(
        `SELECT j.id FROM jobs j LEFT JOIN photographs p ON p.id = j.photographId
         WHERE ${free} AND j.id >= :first AND COALESCE(j.batchId, '') = :batch AND ${SHOOT} = :shoot ORDER BY j.id LIMIT ${ASKERS}`,
        { ...select, replacements: { ...replacements, ...queue } },
      );
      for (const { id } of next) {
        // Raw, because Sequelize leaves SKIP LOCKED out for this dialect.
        const [row] = await db.query<{ id: number }>(`SELECT j.id FROM jobs j WHERE j.id = :id AND ${free} FOR UPDATE SKIP LOCKED`, {
          ...select,
          replacements: { ...replacements, id },
        });
        if (row) return begin(db, row.id, holder, lane.kind, queue, transaction);
      }
    }
    return null;
  });
}

async function begin<K extends JobKind>(
  db: Database,
  id: number,
  holder: string,
  kind: K,
  queue: Queue,
  transaction: Transaction,
): Promise<TakenJob<K>> {
  await db.query(
    `UPDATE jobs SET state = 'running', progress = 0, attempts = attempts + 1, startedAt = UTC_TIMESTAMP(3), leaseHolder = $2, leaseUntil = UTC_TIMESTAMP(3) + INTERVAL ${LEASE_SECONDS} SECOND WHERE id = $1`,
    { bind: [id, holder], transaction },
  );
  for (const name of [queue.shoot, queueName(queue)])
    await db.query('REPLACE INTO turns (lane, queue, takenAt) VALUES ($1, $2, UTC_TIMESTAMP(6))', { bind: [kind, name], transaction });
  const job = (await Job.findByPk(id, { transaction }))!;
  await tellOf(db, job, transaction);
  return {
    id: job.id,
    kind,
    photographId: job.photographId ?? 0,
    assetId: job.assetId,
    options: JSON.parse(job.options) as JobOptions<K>,
    revision: job.revision,
    batchId: job.batchId,
  };
}

const LOST = `state = 'running' AND leaseUntil < UTC_TIMESTAMP(3) AND attempts >= ${ATTEMPTS}`;

/** Ends jobs that took several processes down with them, and tells whoever waits for them. */
async function giveUp(db: Database): Promise<void> {
  const [any] = await db.query(`SELECT 1 FROM jobs WHERE ${LOST} LIMIT 1`, { type: QueryTypes.SELECT });
  if (!any) return;
  await inTransaction(db, async (transaction) => {
    const lost = await db.query<Pick<Job, 'id' | 'kind' | 'photographId'>>(
      `SELECT id, kind, photographId FROM jobs WHERE ${LOST} FOR UPDATE SKIP LOCKED`,
      { type: QueryTypes.SELECT, transaction },
    );
    for (const job of lost) {
      await db.query(
        "UPDATE jobs SET state = 'failed', endedAt = UTC_TIMESTAMP(3), error = 'This was interrupted several times.' WHERE id = $1",
        { bind: [job.id], transaction },
      );
      await tellOf(db, job, transaction);
    }
  });
}

/** Why something waits: its place in line, from 1 on, and about how many seconds until it begins; null: not known yet. */
export interface Waits {
  place: number;
  seconds: number | null;
}

/** By so many that were done the next are foreseen. */
const DURATIONS = 20;

/** The jobs of a kind that wait, by their ids. */
export async function waitsOf(db: Database, kind: JobKind): Promise<Map<number, Waits>> {
  const { queues, turns } = await queuesOf(db, { kind }, ENGINE_VERSION);
  if (queues.length === 0) return new Map();
  const rows = await db.query<{ id: number; shoot: string | number; batch: string }>(
    `SELECT j.id, ${SHOOT} shoot, COALESCE(j.batchId, '') batch FROM jobs j LEFT JOIN photographs p ON p.id = j.photographId
     WHERE j.kind = :kind AND j.state = 'queued' ORDER BY j.id`,
    { replacements: { kind }, type: QueryTypes.SELECT },
  );
  const ids = new Map<string, number[]>();
  for (const { id, shoot, batch } of rows) {
    const name = queueName({ shoot: String(shoot), batch });
    const known = ids.get(name);
    if (known) known.push(id);
    else ids.set(name, [id]);
  }
  const [measured] = await db.query<{ seconds: number | null }>(
    `SELECT AVG(seconds) seconds FROM (SELECT seconds FROM durations WHERE kind = :kind ORDER BY id DESC LIMIT ${DURATIONS}) d`,
    { replacements: { kind }, type: QueryTypes.SELECT },
  );
  const each = typeof measured?.seconds !== 'number' ? null : Number(measured.seconds) / jobFacts(kind).atOnce;
  return new Map(
    Array.from(placesInLine(queues, ids, turns), ([id, place]) => [id, { place, seconds: each === null ? null : Math.ceil(place * each) }]),
  );
}

/** Forgets turns and durations that say nothing any more. */
export async function forgetTurns(db: Database): Promise<void> {
  await db.query('DELETE FROM turns WHERE takenAt < UTC_TIMESTAMP(6) - INTERVAL 1 DAY');
  await db.query(
    `DELETE d FROM durations d WHERE d.id + 10 * ${DURATIONS} * 6 < (SELECT id FROM (SELECT MAX(id) id FROM durations) newest)`,
  );
}

/** Tells who watches what becomes of a job. */
const tellOf = async (
  db: Database,
  { id, kind, photographId }: Pick<Job, 'id' | 'kind' | 'photographId'>,
  transaction: Transaction,
): Promise<void> => {
  const { tells } = jobFacts(kind);
  if (tells === 'job') await tell(db, kind as ToldKind, [id], transaction);
  if (tells !== 'shoot') return;
  const photograph = await Photograph.findByPk(photographId!, { attributes: ['shootId'], transaction });
  if (photograph) await tell(db, kind as ToldKind, [photograph.shootId], transaction);
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
      store: (
        transaction: Transaction,
      ) => Promise<{ assetId?: number; photographId?: number; maskPictureId?: number; outcome?: string } | null>;
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
    await db.query(
      'INSERT INTO durations (kind, seconds) SELECT kind, TIMESTAMPDIFF(MICROSECOND, startedAt, UTC_TIMESTAMP(3)) / 1e6 FROM jobs WHERE id = $1 AND startedAt IS NOT NULL',
      { bind: [id], transaction },
    );
    if (result) await job.update({ state: 'done', progress: 1, endedAt: new Date(), ...result }, { transaction });
    else await job.destroy({ transaction });
    return true;
  });
}
