/** Edits as they were when files of them were asked for: each is kept once, whatever the number of its files. */
import { createHash } from 'node:crypto';
import { eachLayer, waysOf, type UmboDocument } from '@umbo/core/document';
import { QueryTypes, type Transaction } from 'sequelize';
import type { Database } from '../database.ts';
import { Problem } from '@umbo/core/base';
import type { HandOverOptions } from './options.ts';

/** Keeps an edit. @param body as JSON @returns the name that it is kept under */
export async function keepAskedEdit(db: Database, body: string, transaction: Transaction): Promise<string> {
  const sha256 = createHash('sha256').update(body).digest('hex');
  await db.query('INSERT IGNORE INTO asked_edits (sha256, body) VALUES ($1, $2)', { bind: [sha256, body], transaction });
  return sha256;
}

/** Every alternative of every colourway set of an edit: the edit with it shown. */
export const alternativesOf = (document: UmboDocument): ReturnType<typeof waysOf> =>
  [...eachLayer(document.layers)].filter(({ what }) => what.kind === 'colourways').flatMap(({ id }) => waysOf(document, id));

/**
 * The edit that a file is made of.
 * @throws Problem 'not-found' when it is not kept
 */
export async function readAskedEdit(db: Database, jobId: number, { way }: HandOverOptions): Promise<UmboDocument> {
  const [row] = await db.query<{ body: string }>('SELECT e.body FROM jobs j JOIN asked_edits e ON e.sha256 = j.edit WHERE j.id = $1', {
    bind: [jobId],
    type: QueryTypes.SELECT,
  });
  if (!row) throw new Problem('not-found', 'The edit that this was asked for is not there (any more).');
  const document = JSON.parse(row.body) as UmboDocument;
  if (way === undefined) return document;
  const alternative = alternativesOf(document).find(({ id }) => id === way);
  if (!alternative) throw new Problem('not-found', 'The alternative that this was asked for is not in the edit.');
  return alternative.document;
}

/** Lets go of edits of which no file is in the lists any more. */
export async function sweepAskedEdits(db: Database): Promise<void> {
  await db.query('DELETE FROM asked_edits WHERE NOT EXISTS (SELECT 1 FROM jobs j WHERE j.edit = asked_edits.sha256)');
}
