/** The edit of a photograph, its revisions and its history. */
import { documentSchema, faultOf, patch, type Entry, type Patch, type UmboDocument } from '@umbo/core';
import { Ajv } from 'ajv';
import { Op, type Transaction } from 'sequelize';
import { DocumentRow, HistoryRow, Photograph } from './models.ts';
import { Problem } from './problem.ts';
import { inTransaction, type Database } from './database.ts';

const validate = new Ajv({ discriminator: true }).compile<UmboDocument>(documentSchema);

/** A document from somewhere else. @throws Problem 'invalid' that says where it is broken */
export function checkDocument(value: unknown): UmboDocument {
  if (validate(value)) {
    const fault = faultOf(value);
    if (fault) throw new Problem('invalid', `The edit is not valid: ${fault}.`);
    return value;
  }
  const [error] = validate.errors!;
  throw new Problem('invalid', `The edit is not valid: ${error!.instancePath || 'the document'} ${error!.message}.`);
}

/** One change: a new entry of the history, or a step of undo or redo to another place in it. */
export type Change = { readonly type: 'edit'; readonly entry: Entry } | { readonly type: 'go'; readonly to: number };

export interface Batch {
  /** Made by the sender; a batch that is sent again is accepted once. */
  id: string;
  /** The revision that the changes begin from. */
  base: number;
  changes: Change[];
}

export interface DocumentState {
  revision: number;
  position: number;
  document: UmboDocument;
  /** All entries, with their labels; the first `position` are in effect. */
  labels: string[];
}

export async function readDocument(db: Database, photographId: number): Promise<DocumentState> {
  return inTransaction(db, async (transaction) => {
    const row = await lockDocument(photographId, transaction, 'SHARE');
    const rows = await HistoryRow.findAll({ where: { photographId }, attributes: ['label'], order: [['seq', 'ASC']], transaction });
    return {
      revision: row.revision,
      position: row.position,
      document: JSON.parse(row.body) as UmboDocument,
      labels: rows.map(({ label }) => label),
    };
  });
}

/** Entries `from` to `to` (counted from 0, `to` excluded), with their patches. */
export async function readEntries(photographId: number, from: number, to: number): Promise<Entry[]> {
  const rows = await HistoryRow.findAll({ where: { photographId, seq: { [Op.gt]: from, [Op.lte]: to } }, order: [['seq', 'ASC']] });
  return rows.map(toEntry);
}

const toEntry = (row: HistoryRow): Entry => ({
  id: row.entryId,
  label: row.label,
  patches: JSON.parse(row.patches) as Patch[],
  inverse: JSON.parse(row.inverse) as Patch[],
});

async function lockDocument(photographId: number, transaction: Transaction, lock: 'SHARE' | 'UPDATE'): Promise<DocumentRow> {
  const row = await DocumentRow.findByPk(photographId, { transaction, lock: transaction.LOCK[lock] });
  if (!row) throw new Problem('not-found', 'This photograph does not exist (any more).');
  return row;
}

/**
 * Accepts a batch of changes as one transaction.
 * @throws Problem 'conflict' when the batch begins from an older revision: nothing is written, the sender merges or asks
 * @throws Problem 'invalid' when the changes do not give a valid document
 */
export async function changeDocument(db: Database, photographId: number, batch: Batch): Promise<{ revision: number; position: number }> {
  return inTransaction(db, async (transaction) => {
    const row = await lockDocument(photographId, transaction, 'UPDATE');
    if (row.lastBatch === batch.id) return { revision: row.revision, position: row.position };
    if (row.revision !== batch.base)
      throw new Problem('conflict', 'The photograph was changed somewhere else in the meantime.', { revision: row.revision });
    let document = JSON.parse(row.body) as UmboDocument;
    let position = row.position;
    for (const change of batch.changes) {
      if (change.type === 'edit') {
        document = applied(document, change.entry.patches);
        await HistoryRow.destroy({ where: { photographId, seq: { [Op.gt]: position } }, transaction });
        position++;
        const { id, label, patches, inverse } = change.entry;
        await HistoryRow.create(
          { photographId, seq: position, entryId: id, label, patches: JSON.stringify(patches), inverse: JSON.stringify(inverse) },
          { transaction },
        );
      } else {
        document = await travel(document, photographId, position, change.to, transaction);
        position = change.to;
      }
    }
    checkDocument(document);
    const revision = row.revision + 1;
    await row.update({ revision, position, lastBatch: batch.id, body: JSON.stringify(document) }, { transaction });
    await Photograph.update({ state: 'in work' }, { where: { id: photographId, state: 'untouched' }, transaction });
    return { revision, position };
  });
}

function applied(document: UmboDocument, patches: Patch[]): UmboDocument {
  try {
    return patch(document, patches);
  } catch {
    throw new Problem('invalid', 'The changes do not fit the edit they were made for.');
  }
}

async function travel(
  document: UmboDocument,
  photographId: number,
  from: number,
  to: number,
  transaction: Transaction,
): Promise<UmboDocument> {
  const [low, high] = from < to ? [from, to] : [to, from];
  const rows = await HistoryRow.findAll({
    where: { photographId, seq: { [Op.gt]: low, [Op.lte]: high } },
    order: [['seq', from < to ? 'ASC' : 'DESC']],
    transaction,
  });
  if (rows.length !== high - low) throw new Problem('invalid', 'The history has no such place.');
  return rows.map(toEntry).reduce((state, entry) => applied(state, from < to ? entry.patches : entry.inverse), document);
}
