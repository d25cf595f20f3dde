/** Work for the render processes: taken with a lease, so that a job of a process that died is taken again. */
import { maskDocument, eachLayer, waysOf, type OutputSpace, type UmboDocument } from '@umbo/core';
import { QueryTypes, type Transaction } from 'sequelize';
import { dropUnusedAssets } from './assets.ts';
import { readDocument } from './documents.ts';
import { Job, type JobKind } from './models.ts';
import { findPhotograph } from './photographs.ts';
import { Problem } from './problem.ts';
import { inTransaction, type Database } from './database.ts';

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
 * @param maskOf the layer whose mask is wanted instead of the picture; null for the picture
 * @param colourways one file for every alternative of every colourway set, named after it, instead of one of what shows
 */
export async function queueHandOver(
  db: Database,
  photographId: number,
  options: HandOverOptions,
  colourways = false,
  maskOf: string | null = null,
): Promise<Job[]> {
  if (options.format === 'jpeg' && options.bits === 16) throw new Problem('invalid', 'JPEG files hold 8 bits per channel.');
  await findPhotograph(photographId);
  const { document, revision } = await readDocument(db, photographId);
  if (maskOf !== null) {
    const mask = maskDocument(document, maskOf);
    if (!mask) throw new Problem('not-found', 'The layer of this mask does not exist (any more).');
    return queue(db, photographId, revision, [{ document: mask, options: { ...options, grey: true } }]);
  }
  const files = colourways ? eachColourway(document, options.fileName) : [{ document, fileName: options.fileName }];
  if (files.length === 0) throw new Problem('invalid', 'The edit has no colourway set.');
  return queue(
    db,
    photographId,
    revision,
    files.map((file) => ({ document: file.document, options: { ...options, fileName: file.fileName } })),
  );
}

function queue(
  db: Database,
  photographId: number,
  revision: number,
  files: { document: UmboDocument; options: HandOverOptions }[],
): Promise<Job[]> {
  return inTransaction(db, (transaction) =>
    Job.bulkCreate(
      files.map(({ document, options }) => ({
        kind: 'hand-over' as const,
        photographId,
        options: JSON.stringify(options),
        document: JSON.stringify(document),
        revision,
      })),
      { transaction },
    ),
  );
}

function eachColourway(document: UmboDocument, fileName: string): { document: UmboDocument; fileName: string }[] {
  const dot = fileName.lastIndexOf('.');
  const [stem, ending] = dot > 0 ? [fileName.slice(0, Math.min(dot, 70)), fileName.slice(dot, dot + 10)] : [fileName.slice(0, 70), ''];
  const taken = new Set<string>();
  return [...eachLayer(document.layers)]
    .filter(({ what }) => what.kind === 'colourways')
    .flatMap(({ id }) => waysOf(document, id))
    .map(({ name, document: shown }) => {
      const clean =
        name
          .replace(/[\u0000-\u001f/\\]/g, ' ')
          .trim()
          .slice(0, 30) || 'colourway';
      let wanted = `${stem} - ${clean}`;
      for (let n = 2; taken.has(wanted); n++) wanted = `${stem} - ${clean} ${n}`;
      taken.add(wanted);
      return { document: shown, fileName: wanted + ending };
    });
}

/** Asks for a new preview of the edit; one that is waiting already is brought up to date instead. */
export async function queuePreview(db: Database, photographId: number): Promise<void> {
  const { document, revision } = await readDocument(db, photographId);
  const state = { document: JSON.stringify(document), revision };
  const [changed] = await Job.update(state, { where: { kind: 'preview', photographId, state: 'queued' } });
  if (changed === 0 && (await Job.count({ where: { kind: 'preview', photographId, revision, state: ['queued', 'running'] } })) === 0)
    await Job.create({ kind: 'preview', photographId, options: '{}', ...state });
}

export interface TakenJob {
  id: number;
  kind: JobKind;
  photographId: number;
  options: HandOverOptions;
  document: UmboDocument;
  revision: number;
}

/** Takes the next job of a kind. @returns null when nothing waits */
export async function takeJob(db: Database, holder: string, kind: JobKind): Promise<TakenJob | null> {
  return inTransaction(db, async (transaction) => {
    await db.query(
      `UPDATE jobs SET state = 'failed', endedAt = UTC_TIMESTAMP(3), error = 'Rendering was interrupted several times.'
       WHERE state = 'running' AND leaseUntil < UTC_TIMESTAMP(3) AND attempts >= ${ATTEMPTS}`,
      { transaction },
    );
    // Raw, because Sequelize leaves SKIP LOCKED out for this dialect.
    const [row] = await db.query<{ id: number }>(
      `SELECT id FROM jobs WHERE kind = $1 AND (state = 'queued' OR (state = 'running' AND leaseUntil < UTC_TIMESTAMP(3)))
       ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED`,
      { bind: [kind], type: QueryTypes.SELECT, transaction },
    );
    if (!row) return null;
    await db.query(
      `UPDATE jobs SET state = 'running', progress = 0, attempts = attempts + 1, leaseHolder = $2, leaseUntil = UTC_TIMESTAMP(3) + INTERVAL ${LEASE_SECONDS} SECOND WHERE id = $1`,
      { bind: [row.id, holder], transaction },
    );
    const job = (await Job.findByPk(row.id, { transaction }))!;
    return {
      id: job.id,
      kind: job.kind,
      photographId: job.photographId,
      options: JSON.parse(job.options) as HandOverOptions,
      document: JSON.parse(job.document) as UmboDocument,
      revision: job.revision,
    };
  });
}

/** Renews the lease and tells the progress. @returns false when the job was cancelled or belongs to someone else now */
export async function renewJob(db: Database, id: number, holder: string, progress: number): Promise<boolean> {
  return inTransaction(db, async (transaction) => {
    const [row] = await db.query<{ id: number }>(
      `SELECT id FROM jobs WHERE id = $1 AND state = 'running' AND leaseHolder = $2 FOR UPDATE`,
      {
        bind: [id, holder],
        type: QueryTypes.SELECT,
        transaction,
      },
    );
    if (!row) return false;
    await db.query(`UPDATE jobs SET progress = $2, leaseUntil = UTC_TIMESTAMP(3) + INTERVAL ${LEASE_SECONDS} SECOND WHERE id = $1`, {
      bind: [id, progress],
      transaction,
    });
    return true;
  });
}

export interface JobEnd {
  state: 'done' | 'failed';
  error?: string;
  /** Stores the result in the same transaction. @returns the asset that holds it, if one does */
  store?: (transaction: Transaction) => Promise<number | null>;
}

/** Ends a job of this holder. @returns false, with nothing written, when the job is not this holder's any more */
export async function endJob(db: Database, id: number, holder: string, end: JobEnd): Promise<boolean> {
  return inTransaction(db, async (transaction) => {
    const job = await Job.findOne({ where: { id, state: 'running', leaseHolder: holder }, transaction, lock: transaction.LOCK.UPDATE });
    if (!job) return false;
    const assetId = (await end.store?.(transaction)) ?? null;
    await job.update(
      {
        state: end.state,
        progress: end.state === 'done' ? 1 : job.progress,
        error: end.error?.slice(0, 500) ?? null,
        assetId,
        endedAt: new Date(),
      },
      { transaction },
    );
    return true;
  });
}

export async function listHandOvers(): Promise<Job[]> {
  return Job.findAll({ where: { kind: 'hand-over' }, order: [['id', 'DESC']], limit: 200, attributes: { exclude: ['document'] } });
}

export async function findHandOver(id: number): Promise<Job> {
  const job = await Job.findOne({ where: { id, kind: 'hand-over' }, attributes: { exclude: ['document'] } });
  if (!job) throw new Problem('not-found', 'This hand-over does not exist (any more).');
  return job;
}

/** Stops a hand-over that waits or runs; one that has ended stays as it is. */
export async function cancelHandOver(id: number): Promise<void> {
  await findHandOver(id);
  await Job.update({ state: 'cancelled', endedAt: new Date() }, { where: { id, kind: 'hand-over', state: ['queued', 'running'] } });
}

/** Removes an ended hand-over from the list, with its file. */
export async function removeHandOver(db: Database, id: number): Promise<void> {
  const job = await findHandOver(id);
  if (job.state === 'queued' || job.state === 'running') throw new Problem('conflict', 'This hand-over is still at work. Cancel it first.');
  await inTransaction(db, async (transaction) => {
    await Job.destroy({ where: { id }, transaction });
    await dropUnusedAssets(db, transaction);
  });
}
