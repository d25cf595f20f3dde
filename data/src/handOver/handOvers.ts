/** Files of finished edits: what is asked for, what became of it, and letting it go. */
import { cleanName, shorten, type Size, Problem } from '@umbo/core/base';
import { findLayer, hasPassed, maskDocument, pictureSizeOf, type UmboDocument } from '@umbo/core/document';
import { fileFormats } from '@umbo/core/format';
import { QueryTypes, type Transaction } from 'sequelize';
import { dropUnusedAssets } from '../assets.ts';
import { inTransaction, once, type Database } from '../database.ts';
import { readDocumentIn } from '../documents.ts';
import { tell } from '../events.ts';
import { waitsOf, type Waits } from '../jobs.ts';
import { Job, type JobState } from '../models.ts';
import { readProfile } from '../profiles.ts';
import { alternativesOf, keepAskedEdit } from './askedEdits.ts';
import type { HandOverOptions } from './options.ts';

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
  checkOptions(options);
  await checkProfile(options);
  return once(db, key, async (transaction) => {
    const { document, revision } = await readDocumentIn(photographId, transaction);
    const shown = maskOf === null ? document : maskDocument(document, maskOf);
    if (!shown) throw new Problem('not-found', 'The layer of this mask does not exist (any more).');
    const edit = await keepAskedEdit(db, JSON.stringify(shown), transaction);
    const of = { photographId, revision, edit, size: pictureSizeOf(shown) };
    const wanted = colourways ? eachNamedColourway(document, options) : [maskOf === null ? options : { ...options, grey: true as const }];
    const files = wanted.map((each) => ({ ...of, options: each }));
    const ids = await createFiles(files, { urgent: true, batchId: null }, transaction);
    await tell(db, 'hand-over', ids, transaction);
    return ids;
  });
}

/** A file that is asked for. */
export interface AskedFile {
  photographId: number;
  revision: number;
  /** The name that its edit is kept under. */
  edit: string;
  /** Of the edit's picture. */
  size: Size;
  options: HandOverOptions;
}

/** Writes hand-overs down, in their order. @returns their ids */
export async function createFiles(
  files: readonly AskedFile[],
  how: { urgent: boolean; batchId: string | null },
  transaction: Transaction,
): Promise<number[]> {
  const rows = files.map(({ photographId, revision, edit, size, options }) => ({
    ...{ kind: 'hand-over' as const, photographId, revision, edit, options: JSON.stringify(options), ...size, ...how },
  }));
  return (await Job.bulkCreate(rows, { transaction })).map(({ id }) => id);
}

/** How large the picture of a file is. Nothing is made larger than it is, unless it is asked for exactly. */
export function outputSize({ width, height }: Size, size: HandOverOptions['size']): Size {
  if (!size) return { width, height };
  if (size.kind === 'exact') return { width: size.width, height: size.height };
  const share = Math.min(1, size.kind === 'long' ? size.pixels / Math.max(width, height) : size.percent / 100);
  return { width: Math.max(1, Math.round(width * share)), height: Math.max(1, Math.round(height * share)) };
}

/** @throws Problem 'invalid' for what no file can be */
export function checkOptions({ format, bits, atMost, size }: Omit<HandOverOptions, 'fileName'>): void {
  const { name, isLossy } = fileFormats[format];
  if (isLossy && bits === 16) throw new Problem('invalid', `${name} files hold 8 bits per channel.`);
  if (!isLossy && atMost !== undefined) throw new Problem('invalid', `${name} files cannot be made smaller by less quality.`);
  if (size?.kind === 'exact' && size.width * size.height > 2e8) throw new Problem('invalid', 'A picture has at most 200 megapixels.');
}

/** @throws Problem when there is no such profile, or the format does not hold its colours */
export async function checkProfile({ profile, format, bits }: Pick<HandOverOptions, 'profile' | 'format' | 'bits'>): Promise<void> {
  if (!profile) return;
  const { colours, name } = await readProfile(profile.id);
  if (colours !== 'cmyk') return;
  if (!fileFormats[format].holdsInks)
    throw new Problem('invalid', `“${name}” is of inks: ${fileFormats[format].name} files do not hold them. Use TIFF or JPEG.`);
  if (bits === 16) throw new Problem('invalid', 'Files of inks are made with 8 bits.');
}

/** A file for each alternative, named after it. @throws Problem 'invalid' when there is none */
function eachNamedColourway(document: UmboDocument, options: HandOverOptions): HandOverOptions[] {
  const { fileName } = options;
  const dot = fileName.lastIndexOf('.');
  const [stem, ending] = dot > 0 ? [shorten(fileName.slice(0, dot), 150), shorten(fileName.slice(dot), 10)] : [shorten(fileName, 150), ''];
  const taken = new Set<string>();
  const files = colourwaysOf(document).map(({ id, name }) => {
    let wanted = `${stem} - ${name}`;
    for (let n = 2; taken.has(wanted); n++) wanted = `${stem} - ${name} ${n}`;
    taken.add(wanted);
    return { ...options, fileName: wanted + ending, way: id };
  });
  if (files.length === 0) throw new Problem('invalid', 'The edit has no colourway set.');
  return files;
}

/**
 * Each alternative of each colourway set of an edit, and what it is called.
 * @param onlyPassed those that came within the tolerance of their targets
 */
export const colourwaysOf = (document: UmboDocument, onlyPassed = false): { id: string; name: string }[] =>
  alternativesOf(document)
    .filter(({ id }) => !onlyPassed || hasPassed(findLayer(document, id)?.foundBy, document.readings ?? []))
    .map(({ id, name }) => ({ id, name: shorten(cleanName(name.replace(/[/\\]/g, ' ')), 60) || 'colourway' }));

/** A hand-over, as lists show it. */
export interface HandOverSummary {
  id: number;
  photographId: number;
  photograph: string;
  shoot: string;
  /** Of the picture in the file. */
  width: number;
  height: number;
  state: JobState;
  progress: number;
  error: string | null;
  options: HandOverOptions;
  bytes: number | null;
  createdAt: string;
  /** The batch that it belongs to; null: it was asked for by itself. */
  batchId: string | null;
  /** Its place in line, while it waits. */
  waits: Waits | null;
}

/**
 * The newest hand-overs first; without those of batches, unless they are asked for.
 * @param only this one, or those of this batch, in their order
 */
export async function listHandOvers(db: Database, only: { id: number } | { batchId: string } | null = null): Promise<HandOverSummary[]> {
  const waits = await waitsOf(db, 'hand-over');
  const which = !only ? 'j.batchId IS NULL' : 'id' in only ? 'j.id = :id' : 'j.batchId = :batchId';
  const order = only && 'batchId' in only ? 'j.id LIMIT 5000' : 'j.id DESC LIMIT 200';
  const rows = await db.query<Omit<HandOverSummary, 'options' | 'createdAt' | 'waits'> & { options: string; createdAt: Date }>(
    `SELECT j.id, j.photographId, p.name photograph, s.name shoot, COALESCE(j.width, p.width) width, COALESCE(j.height, p.height) height, j.state, j.progress, j.error, j.options, a.bytes, j.createdAt, j.batchId
     FROM jobs j JOIN photographs p ON p.id = j.photographId JOIN shoots s ON s.id = p.shootId LEFT JOIN assets a ON a.id = j.assetId
     WHERE j.kind = 'hand-over' AND ${which} ORDER BY ${order}`,
    { replacements: { ...only }, type: QueryTypes.SELECT },
  );
  return rows.map(({ options: text, bytes, createdAt, ...row }) => {
    const options = JSON.parse(text) as HandOverOptions;
    return {
      ...row,
      ...outputSize(row, options.size),
      options,
      bytes: bytes === null ? null : Number(bytes),
      createdAt: createdAt.toISOString(),
      waits: waits.get(row.id) ?? null,
    };
  });
}

export async function findHandOver(id: number): Promise<Job> {
  const job = await Job.findOne({ where: { id, kind: 'hand-over' } });
  if (!job) throw new Problem('not-found', 'This hand-over does not exist (any more).');
  return job;
}

/** The file of a hand-over; `none`: there will be none, for it failed or was cancelled; `gone`: it was removed. */
export async function readHandOverFile(id: number): Promise<{ assetId: number; fileName: string } | 'at work' | 'none' | 'gone'> {
  const job = await Job.findOne({ where: { id, kind: 'hand-over' }, attributes: ['state', 'assetId', 'options'] });
  if (!job) return 'gone';
  if (job.state === 'queued' || job.state === 'running') return 'at work';
  if (job.assetId === null) return 'none';
  return { assetId: job.assetId, fileName: (JSON.parse(job.options) as HandOverOptions).fileName };
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
