/** Work for the render processes: taken with a lease, so that a job of a process that died is taken again. */
import { cleanName, shorten } from '@umbo/core/base';
import { eachLayer, maskDocument, waysOf, type UmboDocument } from '@umbo/core/document';
import { ENGINE_VERSION, type OutputSpace } from '@umbo/core/render';
import { QueryTypes, type Transaction } from 'sequelize';
import { dropUnusedAssets } from './assets.ts';
import { tell } from './events.ts';
import { readDocumentIn } from './documents.ts';
import { Job, Photograph, type JobKind, type JobState } from './models.ts';
import { previewRevisions } from './previews.ts';
import { Problem } from './problem.ts';
import { inTransaction, once, type Database } from './database.ts';

const LEASE_SECONDS = 15;
/** A job that took so many processes down with it is not tried again. */
const ATTEMPTS = 3;

export type FileFormat = 'jpeg' | 'png' | 'tiff';

export interface HandOverOptions {
  fileName: string;
  format: FileFormat;
  bits: 8 | 16;
  space: OutputSpace;
  /** JPEG only, 1..100. */
  quality: number;
  /** One grey channel, without a profile: for masks. */
  grey?: true;
}

/**
 * Asks for files of a photograph.
 * @param key of the caller; the files are asked for once under it
 * @param maskOf the layer whose mask is wanted instead of the picture; null for the picture
 * @param colourways one file for every alternative of every colourway set, named after it, instead of one of what shows
 * @returns the ids of the hand-overs
 */
export async function queueHandOver(
  db: Database,
  key: string,
  photographId: number,
  options: HandOverOptions,
  colourways = false,
  maskOf: string | null = null,
): Promise<number[]> {
  if (options.format === 'jpeg' && options.bits === 16) throw new Problem('invalid', 'JPEG files hold 8 bits per channel.');
  return once(db, key, async (transaction) => {
    const { document, revision } = await readDocumentIn(photographId, transaction);
    const jobs = await Job.bulkCreate(
      filesOf(document, options, colourways, maskOf).map((file) => ({
        kind: 'hand-over' as const,
        photographId,
        options: JSON.stringify(file.options),
        document: JSON.stringify(file.document),
        revision,
      })),
      { transaction },
    );
    const ids = jobs.map(({ id }) => id);
    await tell(db, 'hand-over', ids, transaction);
    return ids;
  });
}

interface WantedFile {
  document: UmboDocument;
  options: HandOverOptions;
}

function filesOf(document: UmboDocument, options: HandOverOptions, colourways: boolean, maskOf: string | null): WantedFile[] {
  if (maskOf !== null) {
    const mask = maskDocument(document, maskOf);
    if (!mask) throw new Problem('not-found', 'The layer of this mask does not exist (any more).');
    return [{ document: mask, options: { ...options, grey: true } }];
  }
  if (!colourways) return [{ document, options }];
  const files = eachColourway(document, options.fileName);
  if (files.length === 0) throw new Problem('invalid', 'The edit has no colourway set.');
  return files.map((file) => ({ document: file.document, options: { ...options, fileName: file.fileName } }));
}

function eachColourway(document: UmboDocument, fileName: string): { document: UmboDocument; fileName: string }[] {
  const dot = fileName.lastIndexOf('.');
  const [stem, ending] = dot > 0 ? [shorten(fileName.slice(0, dot), 150), shorten(fileName.slice(dot), 10)] : [shorten(fileName, 150), ''];
  const taken = new Set<string>();
  return [...eachLayer(document.layers)]
    .filter(({ what }) => what.kind === 'colourways')
    .flatMap(({ id }) => waysOf(document, id))
    .map(({ name, document: shown }) => {
      const clean = shorten(cleanName(name.replace(/[/\\]/g, ' ')), 60) || 'colourway';
      let wanted = `${stem} - ${clean}`;
      for (let n = 2; taken.has(wanted); n++) wanted = `${stem} - ${clean} ${n}`;
      taken.add(wanted);
      return { document: shown, fileName: wanted + ending };
    });
}

/** Previews that nobody has asked for again by then are not made. */
const WANTED_SECONDS = 10;

/**
 * Asks for previews of edits; to be asked again while they are in sight.
 * @param wanted photographs, each with the revision that is to be seen
 * @returns those that are there
 */
export async function wantPreviews(db: Database, wanted: readonly { id: number; revision: number }[]): Promise<number[]> {
  if (wanted.length === 0) return [];
  const ids = wanted.map(({ id }) => id);
  const there = new Map((await previewRevisions(db, ids)).map(({ id, revision }) => [id, revision]));
  const ready = wanted.filter(({ id, revision }) => (there.get(id) ?? 0) >= revision).map(({ id }) => id);
  const missing = ids.filter((id) => !ready.includes(id));
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
export async function wantLevels(db: Database, assetId: number): Promise<void> {
  await db.query(
    `INSERT INTO jobs (kind, options, document, revision, engine, assetId, createdAt)
     SELECT 'levels', '{}', '{}', 0, ${ENGINE_VERSION}, $1, UTC_TIMESTAMP(3) FROM assets WHERE id = $1 AND NOT EXISTS
       (SELECT 1 FROM jobs WHERE kind = 'levels' AND assetId = $1 AND state IN ('queued', 'running'))`,
    { bind: [assetId] },
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
}

/**
 * Takes the next job of one of the kinds.
 * @param engine what the taker can do: jobs for a newer engine are left for those who have it
 * @returns null when nothing waits
 */
export async function takeJob(db: Database, holder: string, kinds: readonly JobKind[], engine = ENGINE_VERSION): Promise<TakenJob | null> {
  const replacements = { kinds, holder, engine };
  const free = "kind IN (:kinds) AND engine <= :engine AND (state = 'queued' OR (state = 'running' AND leaseUntil < UTC_TIMESTAMP(3)))";
  // Nearly always nothing waits: then there is no transaction.
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
    // Raw, because Sequelize leaves SKIP LOCKED out for this dialect.
    const [row] = await db.query<{ id: number }>(`SELECT id FROM jobs WHERE ${free} ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED`, {
      replacements,
      type: QueryTypes.SELECT,
      transaction,
    });
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
    };
  });
}

/** Hand-overs are watched by whoever waits for them, finding by who looks at the shoot. */
const tellOf = async (
  db: Database,
  { id, kind, photographId }: Pick<Job, 'id' | 'kind' | 'photographId'>,
  transaction: Transaction,
): Promise<void> => {
  if (kind === 'hand-over') await tell(db, kind, [id], transaction);
  if (kind !== 'find') return;
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
      store: (transaction: Transaction) => Promise<{ assetId?: number; photographId?: number } | null>;
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

/** A hand-over, as lists show it. */
export interface HandOverSummary {
  id: number;
  photographId: number;
  photograph: string;
  shoot: string;
  width: number;
  height: number;
  state: JobState;
  progress: number;
  error: string | null;
  options: HandOverOptions;
  bytes: number | null;
  createdAt: string;
}

/** The newest hand-overs first. @param id only this one */
export async function listHandOvers(db: Database, id: number | null = null): Promise<HandOverSummary[]> {
  const rows = await db.query<Omit<HandOverSummary, 'options' | 'createdAt'> & { options: string; createdAt: Date }>(
    `SELECT j.id, j.photographId, p.name photograph, s.name shoot, p.width, p.height, j.state, j.progress, j.error, j.options, a.bytes, j.createdAt
     FROM jobs j JOIN photographs p ON p.id = j.photographId JOIN shoots s ON s.id = p.shootId LEFT JOIN assets a ON a.id = j.assetId
     WHERE j.kind = 'hand-over' ${id === null ? '' : 'AND j.id = :id'} ORDER BY j.id DESC LIMIT 200`,
    { replacements: { id }, type: QueryTypes.SELECT },
  );
  return rows.map(({ options, bytes, createdAt, ...row }) => ({
    ...row,
    options: JSON.parse(options) as HandOverOptions,
    bytes: bytes === null ? null : Number(bytes),
    createdAt: createdAt.toISOString(),
  }));
}

export async function findHandOver(id: number): Promise<Job> {
  const job = await Job.findOne({ where: { id, kind: 'hand-over' }, attributes: { exclude: ['document'] } });
  if (!job) throw new Problem('not-found', 'This hand-over does not exist (any more).');
  return job;
}

/** Stops a hand-over that waits or runs; one that has ended stays as it is. */
export async function cancelHandOver(db: Database, id: number): Promise<void> {
  await findHandOver(id);
  await inTransaction(db, async (transaction) => {
    const where = { id, kind: 'hand-over', state: ['queued', 'running'] };
    await Job.update({ state: 'cancelled', endedAt: new Date() }, { where, transaction });
    await tell(db, 'hand-over', [id], transaction);
  });
}

/** Removes an ended hand-over from the list, with its file. */
export async function removeHandOver(db: Database, id: number): Promise<void> {
  const job = await findHandOver(id);
  if (job.state === 'queued' || job.state === 'running') throw new Problem('conflict', 'This hand-over is still at work. Cancel it first.');
  await inTransaction(db, async (transaction) => {
    await tell(db, 'hand-over', [id], transaction);
    await Job.destroy({ where: { id }, transaction });
    await dropUnusedAssets(db, job.assetId === null ? [] : [job.assetId], transaction);
  });
}
