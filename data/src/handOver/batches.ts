/** Files of many photographs, asked for together: their names, their progress, and what becomes of them as a whole. */
import { clashesIn, fileFormats, fillPattern } from '@umbo/core/format';
import { pictureSizeOf, type UmboDocument } from '@umbo/core/document';
import { QueryTypes, type Transaction } from 'sequelize';
import { dropUnusedAssets } from '../assets.ts';
import { inTransaction, once, type Database } from '../database.ts';
import { tell } from '../events.ts';
import { waitsOf, type Waits } from '../jobs.ts';
import { keepAskedEdit } from './askedEdits.ts';
import { checkOptions, checkProfile, colourwaysOf, createFiles, type AskedFile } from './handOvers.ts';
import type { HandOverOptions } from './options.ts';
import { DocumentRow, Job, Photograph, Shoot, VersionRow } from '../models.ts';
import { Problem } from '@umbo/core/base';

/** Which states of an edit become files: as it is now, as each of its versions has it, or both. */
export type WhichVersions = 'now' | 'versions' | 'both';

export interface BatchWish {
  /** In the order of their numbers. */
  photographs: readonly number[];
  versions: WhichVersions;
  /** A file for each alternative of each colourway set, where an edit has one. */
  colourways: boolean;
  /** Of these, only those that came within the tolerance of their targets; and nothing where none did. Left out: all. */
  passed?: boolean;
  pattern: string;
  options: Omit<HandOverOptions, 'fileName'>;
}

/** As many files as one batch may have. */
const MOST = 5000;

async function check({ options }: BatchWish): Promise<void> {
  checkOptions(options);
  await checkProfile(options);
}

/**
 * The files of a batch. One edit after another is read: many together may be more than the memory holds.
 * @param keep keeps an edit and gives its name; null: only the names of files are wanted, and edits are read as far as those depend on them
 */
async function plan(
  { photographs, versions, colourways, passed = false, pattern, options }: BatchWish,
  keep: ((body: string) => Promise<string>) | null,
  transaction: Transaction | null = null,
): Promise<AskedFile[]> {
  const rows = await Photograph.findAll({ where: { id: [...photographs], removedAt: null }, transaction });
  if (rows.length !== new Set(photographs).size) throw new Problem('not-found', 'A photograph does not exist (any more).');
  const byId = new Map(rows.map((row) => [row.id, row]));
  const shoots = new Map(
    (await Shoot.findAll({ where: { id: rows.map(({ shootId }) => shootId) }, transaction })).map(({ id, name }) => [id, name]),
  );
  const digits = String(photographs.length).length;
  const date = new Date().toISOString().slice(0, 10);
  const files: AskedFile[] = [];
  const attributes = keep || colourways ? undefined : { exclude: ['body'] };
  for (const [i, id] of photographs.entries()) {
    const { name, shootId } = byId.get(id)!;
    const edit = (await DocumentRow.findByPk(id, { attributes, transaction }))!;
    const where = { photographId: id };
    const kept = versions === 'now' ? [] : await VersionRow.findAll({ where, order: [['id', 'ASC']], attributes, transaction });
    // Without versions there would be no file of it at all.
    const now = versions !== 'versions' || kept.length === 0 ? [{ version: '', body: edit.body }] : [];
    for (const { version, body } of [...now, ...kept.map((one) => ({ version: one.name, body: one.body }))]) {
      const document = JSON.parse(body ?? '{}') as UmboDocument;
      const onlyPassed = colourways && passed;
      const ways = colourways ? colourwaysOf(document, onlyPassed) : [];
      const wanted: { id?: string; name: string }[] = ways.length > 0 || onlyPassed ? ways : [{ name: '' }];
      const of = {
        ...{ photographId: id, revision: edit.revision },
        edit: keep && wanted.length > 0 ? await keep(body) : '',
        size: keep ? pictureSizeOf(document) : { width: 0, height: 0 },
      };
      for (const way of wanted) {
        const by = {
          name: name.replace(/\.[^.]+$/u, ''),
          number: String(i + 1).padStart(digits, '0'),
          version,
          colourway: way.name,
          shoot: shoots.get(shootId)!,
          date,
        };
        const fileName = fillPattern(pattern, by) + fileFormats[options.format].ending;
        files.push({ ...of, options: { ...options, fileName, ...(way.id !== undefined && { way: way.id }) } });
      }
      if (files.length > MOST) throw new Problem('invalid', `These are more than ${MOST} files.`);
    }
  }
  if (files.length === 0) throw new Problem('invalid', 'No alternative has passed its target.');
  return files;
}

export interface BatchNames {
  names: string[];
  /** Those that more than one file would have. */
  clashes: string[];
}

/** What the files of a batch would be called. */
export async function namesOfBatch(wish: BatchWish): Promise<BatchNames> {
  await check(wish);
  const names = (await plan(wish, null)).map(({ options: { fileName } }) => fileName);
  return { names, clashes: clashesIn(names) };
}

/**
 * Asks for the files of many photographs. They take turns with those that are asked for by themselves.
 * @param key of the caller, which becomes the batch's id; the files are asked for once under it
 * @throws Problem 'invalid' when two files would have the same name; then nothing is asked for
 */
export async function queueBatch(db: Database, key: string, wish: BatchWish): Promise<{ id: string; files: number }> {
  // Before the transaction: within it, what asks for a second connection may wait for others that do the same.
  await check(wish);
  return once(db, `batch-${key}`, async (transaction) => {
    const files = await plan(wish, (body) => keepAskedEdit(db, body, transaction), transaction);
    const clashes = clashesIn(files.map(({ options: { fileName } }) => fileName));
    if (clashes.length > 0)
      throw new Problem(
        'invalid',
        `${clashes.length === 1 ? 'A name' : `${clashes.length} names`} would be there twice, such as “${clashes[0]}”.`,
      );
    await createFiles(files, { urgent: false, batchId: key }, transaction);
    await tell(db, 'hand-over', [0], transaction);
    return { id: key, files: files.length };
  });
}

export interface BatchSummary {
  id: string;
  createdAt: string;
  files: number;
  done: number;
  failed: number;
  cancelled: number;
  /** Of all files together, 0..1. */
  progress: number;
  bytes: number;
  /** Seconds until the rest is done, by what was done; null: not known, or nothing is left. */
  secondsLeft: number | null;
  /** The place in line of the next file; null: one is at work, or none is left. */
  waits: Waits | null;
  shoots: string[];
}

/** The newest batches first. */
export async function listBatches(db: Database): Promise<BatchSummary[]> {
  const rows = await db.query<Record<string, string | number | Date | null>>(
    `SELECT j.batchId id, MIN(j.createdAt) createdAt, COUNT(*) files, SUM(j.state = 'done') done, SUM(j.state = 'failed') failed,
       SUM(j.state = 'cancelled') cancelled, SUM(IF(j.state = 'running', j.progress, 0)) partly, SUM(a.bytes) bytes, SUM(j.state = 'running') running, MIN(IF(j.state = 'queued', j.id, NULL)) next,
       MIN(j.endedAt) firstEnd, TIMESTAMPDIFF(MICROSECOND, MIN(IF(j.state = 'done', j.endedAt, NULL)), MAX(IF(j.state = 'done', j.endedAt, NULL))) / 1e6 span,
       GROUP_CONCAT(DISTINCT s.name ORDER BY s.name SEPARATOR '\\n') shoots
     FROM jobs j JOIN photographs p ON p.id = j.photographId JOIN shoots s ON s.id = p.shootId LEFT JOIN assets a ON a.id = j.assetId
     WHERE j.kind = 'hand-over' AND j.batchId IS NOT NULL GROUP BY j.batchId ORDER BY MIN(j.id) DESC LIMIT 50`,
    { type: QueryTypes.SELECT },
  );
  const waits = await waitsOf(db, 'hand-over');
  return rows.map((row) => {
    const [files, done, failed, cancelled] = (['files', 'done', 'failed', 'cancelled'] as const).map((key) => Number(row[key])) as [
      number,
      number,
      number,
      number,
    ];
    const left = files - done - failed - cancelled;
    const each = done > 1 ? Number(row.span) / (done - 1) : null;
    return {
      id: String(row.id),
      createdAt: (row.createdAt as Date).toISOString(),
      files,
      done,
      failed,
      cancelled,
      progress: (files - left + Number(row.partly)) / files,
      bytes: Number(row.bytes ?? 0),
      secondsLeft: left === 0 || each === null ? null : Math.ceil(left * each),
      waits: (Number(row.running) === 0 && waits.get(Number(row.next))) || null,
      shoots: String(row.shoots).split('\n'),
    };
  });
}

async function inBatch(db: Database, batchId: string, work: (transaction: Transaction) => Promise<void>): Promise<void> {
  await inTransaction(db, async (transaction) => {
    if ((await Job.count({ where: { batchId }, transaction })) === 0)
      throw new Problem('not-found', 'These hand-overs do not exist (any more).');
    await work(transaction);
    await tell(db, 'hand-over', [0], transaction);
  });
}

/** Stops what waits or runs; files that are there stay. */
export const cancelBatch = (db: Database, batchId: string): Promise<void> =>
  inBatch(db, batchId, async (transaction) => {
    await Job.update({ state: 'cancelled', endedAt: new Date() }, { where: { batchId, state: ['queued', 'running'] }, transaction });
  });

/** Has what failed or was cancelled made after all, from the edits as they were when it was asked for. */
export const retryBatch = (db: Database, batchId: string): Promise<void> =>
  inBatch(db, batchId, async (transaction) => {
    await Job.update(
      { state: 'queued', endedAt: null, error: null, progress: 0, attempts: 0 },
      { where: { batchId, state: ['failed', 'cancelled'] }, transaction },
    );
  });

/** Lets go of all files of a batch. @throws Problem 'conflict' while some are at work */
export const removeBatch = (db: Database, batchId: string): Promise<void> =>
  inBatch(db, batchId, async (transaction) => {
    const jobs = await Job.findAll({
      where: { batchId },
      attributes: ['id', 'state', 'assetId'],
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    if (jobs.some(({ state }) => state === 'queued' || state === 'running'))
      throw new Problem('conflict', 'Some of these hand-overs are still at work. Cancel them first.');
    await Job.destroy({ where: { batchId }, transaction });
    await dropUnusedAssets(
      db,
      jobs.flatMap(({ assetId }) => assetId ?? []),
      transaction,
    );
  });
