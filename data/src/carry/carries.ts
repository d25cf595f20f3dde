/** Carrying from one photograph to others: asked for at once, done by the render processes, told, taken back. */
import { shorten, Problem } from '@umbo/core/base';
import {
  carriedFrom,
  correctionFor,
  type CarryChoice,
  type CarryHow,
  type CarryReport,
  type CorrectionWish,
  type FoundHere,
} from '@umbo/core/carry';
import {
  eachLayer,
  entryBetween,
  mergeDocuments,
  ROLES,
  travel,
  type FoundRegionFile,
  type Role,
  type UmboDocument,
} from '@umbo/core/document';
import type { Answered } from '@umbo/core/solve';
import { QueryTypes, type Transaction } from 'sequelize';
import { changeAsItIs, readDocument, readEntries, type Batch, type DocumentState } from '../documents.ts';
import { inTransaction, once, type Database } from '../database.ts';
import { tell } from '../events.ts';
import { waitsOf, type Waits } from '../jobs.ts';
import { CarryRow, HistoryRow, Job, Photograph, type JobState } from '../models.ts';
import { findPhotograph, photographContent } from '../photographs.ts';
import { noteContents } from '../references.ts';
import { findShoot } from '../shoots.ts';
import { markedAs, markIn, readTreatment, readVersionOf } from './treatments.ts';

/** `changes`: only what changed since it was carried before; to photographs that it was not, as `replace`. */
export type CarryManner = CarryHow | 'changes';

/** Where what goes along comes from: a photograph's edit, a treatment, or what brings a region to a colour. */
export type CarrySource =
  { kind: 'photograph'; id: number } | { kind: 'treatment'; id: string } | ({ kind: 'correction' } & CorrectionWish);

export interface CarryWish {
  from: CarrySource;
  photographs: readonly number[];
  choice: CarryChoice;
  how: CarryManner;
  /** Whether nothing is changed yet: what would come of it is shown. */
  isTrial: boolean;
}

/** What was found for it: by what, what of, and what there is. */
export interface FoundFor {
  by: string;
  /** What was looked for. */
  roles: readonly Role[];
  regions: readonly FoundRegionFile[];
}

/** What came of one photograph. */
export interface CarryOutcome {
  report: CarryReport;
  /** Whether the edit is another. */
  changed: boolean;
  /** What was changed here as well, and stays as it is here. */
  kept: readonly string[];
  /** How much there is to look at. */
  remarks: number;
  /** What became of layers whose settings were found anew. */
  answered: readonly Answered[];
  settled: FoundHere;
  /** What was found on the photograph for it; null: nothing was looked for. */
  found: FoundFor | null;
}

interface Source {
  photographId: number | null;
  name: string;
  /** The SHA-256 of the photograph that it was made on; empty: of none. */
  sha256: string;
  document: UmboDocument;
  treatment: { id: string; version: number } | null;
  /** The layers that are found anew; null: as the choice says. */
  solve: readonly string[] | null;
}

async function sourceOf(db: Database, from: CarrySource): Promise<Source> {
  if (from.kind === 'photograph') {
    const photograph = await findPhotograph(from.id);
    const { document } = await readDocument(db, from.id);
    // Whoever gets it from a photograph has it from there: the treatment does not know of it.
    for (const layer of eachLayer(document.layers)) delete layer.treatment;
    const sha256 = await photographContent(db, photograph);
    return { photographId: from.id, name: photograph.name, sha256, document, treatment: null, solve: null };
  }
  if (from.kind === 'correction') {
    const { document, layerId } = correctionFor(from);
    return { photographId: null, name: `${from.name} brought together`, sha256: '', document, treatment: null, solve: [layerId] };
  }
  const { name, version, document, solve, sha256 } = await readTreatment(from.id);
  const treatment = { id: from.id, version };
  return { photographId: null, name, sha256, document: markedAs(document, treatment), treatment, solve };
}

/** Trials are looked at and forgotten. */
const FORGET = 'isTrial AND createdAt < UTC_TIMESTAMP(3) - INTERVAL 1 DAY';

/**
 * Has what was chosen carried to photographs of one shoot.
 * @param key of the caller, which becomes its id; it is asked for once under it
 * @throws Problem 'invalid' when there is nothing to carry
 */
export async function queueCarry(
  db: Database,
  key: string,
  { from, photographs, choice, how, isTrial }: CarryWish,
): Promise<{ id: string; photographs: number }> {
  const { photographId: sourceId, name: sourceName, sha256: sourceSha256, document, treatment, solve } = await sourceOf(db, from);
  const wanted = solve ? { ...choice, solve } : choice;
  const { layers, regions, readings, geometry } = carriedFrom(document, wanted);
  if (layers.length === 0 && !regions && !readings && !geometry) throw new Problem('invalid', 'Nothing was chosen that could be carried.');
  if (sourceId !== null && photographs.includes(sourceId)) throw new Problem('invalid', 'A photograph is not carried to itself.');
  const { shootId } = await findPhotograph(sourceId ?? photographs[0]!);
  return once(db, `carry-${key}`, async (transaction) => {
    const targets = await Photograph.findAll({
      where: { id: [...photographs], shootId, removedAt: null },
      order: [
        ['name', 'ASC'],
        ['id', 'ASC'],
      ],
      transaction,
    });
    if (targets.length !== new Set(photographs).size) throw new Problem('not-found', 'A photograph is not in this shoot (any more).');
    if (isTrial) {
      await db.query(`DELETE FROM jobs WHERE kind = 'carry' AND batchId IN (SELECT id FROM carries WHERE ${FORGET})`, { transaction });
      await db.query(`DELETE FROM carries WHERE ${FORGET}`, { transaction });
    }
    const body = JSON.stringify(document);
    await noteContents(db, `carry-${key}`, body, transaction);
    await CarryRow.create(
      {
        ...{ id: key, shootId, sourceId, sourceName, sourceSha256, how, isTrial },
        choice: JSON.stringify(wanted),
        body,
        treatmentId: treatment?.id ?? null,
        treatmentVersion: treatment?.version ?? null,
      },
      { transaction },
    );
    await Job.bulkCreate(
      targets.map(({ id }) => ({
        ...{ kind: 'carry' as const, photographId: id, options: '{}', revision: 0, batchId: key },
        // Trials are waited for.
        urgent: isTrial,
      })),
      { transaction },
    );
    await tell(db, 'carry', [shootId], transaction);
    return { id: key, photographs: targets.length };
  });
}

/** What a render process is to carry. */
export interface Carry {
  id: string;
  sourceId: number | null;
  sourceName: string;
  sourceSha256: string;
  how: CarryManner;
  choice: CarryChoice;
  isTrial: boolean;
  treatmentId: string | null;
  /** The edit that it comes from, as it was. */
  source: UmboDocument;
}

async function rowOf(id: string): Promise<CarryRow> {
  const row = await CarryRow.findByPk(id);
  if (!row) throw new Problem('not-found', 'What was carried is not known (any more).');
  return row;
}

export async function findCarry(id: string): Promise<Carry> {
  const { sourceId, sourceName, sourceSha256, how, choice, body, isTrial, treatmentId } = await rowOf(id);
  return {
    ...{ id, sourceId, sourceName, sourceSha256, isTrial, treatmentId },
    how: how as CarryManner,
    choice: JSON.parse(choice) as CarryChoice,
    source: JSON.parse(body) as UmboDocument,
  };
}

/** The entries of the histories that a job makes: of what comes along, and of taking that back. */
export const carryEntry = (jobId: number): string => `carry-${jobId}`;
const backEntry = (jobId: number): string => `back-${jobId}-`;

/** Whether an entry that begins so is in effect in the history of the job's photograph. */
const inEffect = (beginning: string): string =>
  `EXISTS (SELECT 1 FROM history h JOIN documents e ON e.photographId = h.photographId
     WHERE h.photographId = j.photographId AND h.seq <= e.position AND h.entryId LIKE ${beginning})`;
const IS_HERE = `(${inEffect("CONCAT('carry-', j.id)")} AND NOT ${inEffect("CONCAT('back-', j.id, '-%')")})`;

/** What was carried before, as its source was then, and what was found anew for it. */
export type CarriedBefore = Carry & { settled: FoundHere };

/**
 * What came from the same photograph, or of the same treatment, to that of a job before and is in effect, the oldest first. Layers of a
 * treatment whose carry is not known (any more) go by its version.
 * @param document the edit of the job's photograph: its layers say what brought them
 */
export async function carriedBefore(
  db: Database,
  { sourceId, treatmentId, ...carry }: Carry,
  { id, photographId }: { id: number; photographId: number },
  document: UmboDocument,
): Promise<CarriedBefore[]> {
  const layers = [...eachLayer(document.layers)];
  const named = [...new Set(layers.flatMap(({ carried }) => carried?.by ?? []))];
  const rows = await db.query<{ id: string; outcome: string | null }>(
    `SELECT c.id, j.outcome FROM carries c LEFT JOIN jobs j ON j.batchId = c.id AND j.kind = 'carry' AND j.photographId = :photographId
     WHERE ${treatmentId === null ? 'c.sourceId = :sourceId' : 'c.treatmentId = :treatmentId'} AND NOT c.isTrial
       AND (c.id IN (:named) OR (j.id < :id AND j.state = 'done' AND ${IS_HERE})) ORDER BY COALESCE(j.id, 0)`,
    { replacements: { sourceId, treatmentId, id, photographId, named: ['', ...named] }, type: QueryTypes.SELECT },
  );
  const before: CarriedBefore[] = [];
  for (const row of rows) {
    if (row.id === carry.id) continue;
    const settled = row.outcome === null ? {} : ((JSON.parse(row.outcome) as Partial<CarryOutcome>).settled ?? {});
    before.push({ ...(await findCarry(row.id)), settled });
  }
  const mark = treatmentId === null ? undefined : markIn(document, treatmentId);
  const isKnown = layers.every(({ treatment, carried }) => treatment?.id !== treatmentId || before.some((one) => one.id === carried?.by));
  if (!mark || isKnown) return before;
  const { document: made, sha256 } = await readVersionOf(treatmentId!, mark.version);
  const version = { ...carry, sourceId, treatmentId, id: '', source: markedAs(made, mark), sourceSha256: sha256, settled: {} };
  return [version, ...before];
}

/** What was found on a photograph for an earlier carry, or while one was tried; null: nothing is known. */
export async function foundBefore(db: Database, photographId: number, by: string): Promise<FoundFor | null> {
  const [last] = await db.query<{ outcome: string }>(
    `SELECT outcome FROM jobs WHERE kind = 'carry' AND photographId = :photographId AND state = 'done'
       AND JSON_VALUE(outcome, '$.found.by') = :by ORDER BY id DESC LIMIT 1`,
    { replacements: { photographId, by }, type: QueryTypes.SELECT },
  );
  if (!last) return null;
  const found = (JSON.parse(last.outcome) as CarryOutcome).found!;
  // Before it was noted, everything was looked for.
  return { ...found, roles: found.roles ?? ROLES.map(([role]) => role) };
}

/** Keeps the picture of what would come of a trial. */
export async function keepTrialPicture(db: Database, jobId: number, picture: Buffer, transaction: Transaction): Promise<void> {
  await db.query('REPLACE INTO trials (jobId, picture) VALUES ($1, $2)', { bind: [jobId, picture], transaction });
}

export async function readTrialPicture(db: Database, jobId: number): Promise<Buffer> {
  const [row] = await db.query<{ picture: Buffer }>('SELECT picture FROM trials WHERE jobId = $1', {
    bind: [jobId],
    type: QueryTypes.SELECT,
  });
  if (!row) throw new Problem('not-found', 'There is no picture of this (any more).');
  return row.picture;
}

export interface CarrySummary {
  id: string;
  sourceId: number | null;
  sourceName: string;
  /** The name of the shoot that it is in. */
  shoot: string;
  how: CarryManner;
  isTrial: boolean;
  /** What it came from: `sourceName` is its name. */
  from: CarrySource['kind'];
  createdAt: string;
  photographs: number;
  done: number;
  failed: number;
  cancelled: number;
  /** Of all together, 0..1. */
  progress: number;
  /** Photographs on which what came along is in effect; and on which there is something to look at. */
  here: number;
  remarks: number;
  /** The place in line of the next photograph; null: one is at work, or none is left. */
  waits: Waits | null;
}

const SUMMARY = `SELECT c.id, c.sourceId, c.sourceName, s.name shoot, c.how, c.isTrial, c.treatmentId, c.sourceSha256, c.createdAt, COUNT(j.id) photographs, SUM(j.state = 'done') done,
    SUM(j.state = 'failed') failed, SUM(j.state = 'cancelled') cancelled, SUM(IF(j.state = 'running', j.progress, 0)) partly,
    SUM(j.state = 'done' AND JSON_VALUE(j.outcome, '$.remarks') > 0 AND ${IS_HERE}) remarks, SUM(${IS_HERE}) here,
    MIN(IF(j.state = 'queued', j.id, NULL)) next, SUM(j.state = 'running') running
  FROM carries c JOIN shoots s ON s.id = c.shootId JOIN jobs j ON j.batchId = c.id AND j.kind = 'carry'`;

function summaryOf(row: Record<string, string | number | Date | null>, waits: ReadonlyMap<number, Waits>): CarrySummary {
  const [photographs, done, failed, cancelled] = [row.photographs, row.done, row.failed, row.cancelled].map(Number) as [
    number,
    number,
    number,
    number,
  ];
  return {
    id: String(row.id),
    sourceId: row.sourceId as number | null,
    sourceName: String(row.sourceName),
    shoot: String(row.shoot),
    how: row.how as CarryManner,
    isTrial: Number(row.isTrial) === 1,
    from: row.treatmentId !== null ? 'treatment' : row.sourceSha256 === '' ? 'correction' : 'photograph',
    createdAt: (row.createdAt as Date).toISOString(),
    photographs,
    done,
    failed,
    cancelled,
    progress: (done + failed + cancelled + Number(row.partly)) / photographs,
    here: Number(row.here),
    remarks: Number(row.remarks),
    waits: (Number(row.running) === 0 && waits.get(Number(row.next))) || null,
  };
}

/** What was carried in a shoot, the newest first. */
export async function listCarries(db: Database, shootId: number): Promise<CarrySummary[]> {
  await findShoot(shootId);
  const rows = await db.query<Record<string, string | number | Date | null>>(
    `${SUMMARY} WHERE c.shootId = $1 AND NOT c.isTrial GROUP BY c.id ORDER BY c.createdAt DESC LIMIT 50`,
    { bind: [shootId], type: QueryTypes.SELECT },
  );
  const waits = await waitsOf(db, 'carry');
  return rows.map((row) => summaryOf(row, waits));
}

export interface CarriedTo {
  jobId: number;
  photographId: number;
  name: string;
  revision: number;
  state: JobState;
  progress: number;
  error: string | null;
  outcome: CarryOutcome | null;
  /** Whether what came along is in effect. */
  isHere: boolean;
  /** Its place in line, while it waits. */
  waits: Waits | null;
}

export interface CarryDetail extends CarrySummary {
  shootId: number;
  to: CarriedTo[];
}

export async function readCarry(db: Database, id: string): Promise<CarryDetail> {
  const { shootId } = await rowOf(id);
  const [summary] = await db.query<Record<string, string | number | Date | null>>(`${SUMMARY} WHERE c.id = $1 GROUP BY c.id`, {
    bind: [id],
    type: QueryTypes.SELECT,
  });
  if (!summary) throw new Problem('not-found', 'The photographs that this was carried to are gone.');
  const waits = await waitsOf(db, 'carry');
  const to = await db.query<Omit<CarriedTo, 'outcome' | 'isHere' | 'waits'> & { outcome: string | null; isHere: number }>(
    `SELECT j.id jobId, j.photographId, p.name, d.revision, j.state, j.progress, j.error, j.outcome, ${IS_HERE} isHere
     FROM jobs j JOIN photographs p ON p.id = j.photographId JOIN documents d ON d.photographId = p.id
     WHERE j.kind = 'carry' AND j.batchId = $1 ORDER BY j.id`,
    { bind: [id], type: QueryTypes.SELECT },
  );
  return {
    ...summaryOf(summary, waits),
    shootId,
    to: to.map(({ outcome, isHere, ...one }) => ({
      ...one,
      outcome: outcome === null ? null : (JSON.parse(outcome) as CarryOutcome),
      isHere: isHere === 1,
      waits: waits.get(one.jobId) ?? null,
    })),
  };
}

async function inCarry(db: Database, id: string, work: (transaction: Transaction) => Promise<unknown>): Promise<void> {
  const { shootId } = await rowOf(id);
  await inTransaction(db, async (transaction) => {
    await work(transaction);
    await tell(db, 'carry', [shootId], transaction);
  });
}

/** Stops what waits or runs; what came along already stays. */
export const cancelCarry = (db: Database, id: string): Promise<void> =>
  inCarry(db, id, (transaction) =>
    Job.update(
      { state: 'cancelled', endedAt: new Date() },
      { where: { kind: 'carry', batchId: id, state: ['queued', 'running'] }, transaction },
    ),
  );

/** Has what failed or was cancelled carried after all, as it was when it was asked for. */
export const retryCarry = (db: Database, id: string): Promise<void> =>
  inCarry(db, id, (transaction) =>
    Job.update(
      { state: 'queued', endedAt: null, error: null, progress: 0, attempts: 0 },
      { where: { kind: 'carry', batchId: id, state: ['failed', 'cancelled'] }, transaction },
    ),
  );

/**
 * Takes back what came along, on one photograph or on all: as undo does where nothing was done since, else what was done since stays.
 * @returns on how many photographs
 */
export async function takeBackCarry(db: Database, id: string, photographId: number | null): Promise<{ photographs: number }> {
  const { to, sourceName } = await readCarry(db, id);
  const wanted = to.filter((one) => one.isHere && (photographId === null || one.photographId === photographId));
  for (const { jobId, photographId: on } of wanted) await takeBack(db, jobId, on, shorten(`Take back what came from ${sourceName}`, 200));
  await inCarry(db, id, async () => undefined);
  return { photographs: wanted.length };
}

const takeBack = (db: Database, jobId: number, photographId: number, label: string): Promise<boolean> =>
  changeAsItIs(db, photographId, async (state) => {
    const row = await HistoryRow.findOne({ where: { photographId, entryId: carryEntry(jobId) }, attributes: ['seq'] });
    if (!row || row.seq > state.position) return null;
    const id = `${backEntry(jobId)}${state.revision}`;
    return { id, changes: await changesBack(db, photographId, state, row.seq, id, label) };
  });

async function changesBack(
  db: Database,
  photographId: number,
  { document, revision, position }: DocumentState,
  seq: number,
  id: string,
  label: string,
): Promise<Batch['changes']> {
  if (seq === position) return [{ type: 'go', from: position, to: position - 1 }];
  const [own, ...since] = await readEntries(db, photographId, seq - 1, position, revision);
  const after = travel(document, since, 'back');
  const before = travel(after, [own!], 'back');
  const { document: next } = mergeDocuments(after, document, before, 'mine');
  return [{ type: 'edit', entry: entryBetween(id, label, document, next) }];
}
