/** The edit of a photograph, its revisions and its history. */
import {
  addEntry,
  documentSchema,
  newFault,
  sameValue,
  travel,
  TRAVEL_LIMIT,
  type Change,
  type Entry,
  type Patch,
  type UmboDocument,
} from '@umbo/core/document';
import { Ajv, type ValidateFunction } from 'ajv';
import { Op, type Transaction } from 'sequelize';
import { BatchRow, DocumentRow, HistoryRow, Photograph } from './models.ts';
import { Problem } from '@umbo/core/base';
import { noteContents, noteTreatments } from './references.ts';
import { inTransaction, type Database } from './database.ts';
import { tell } from './events.ts';
import { databaseId } from './settings.ts';

/** Compiled when the first edit comes: that takes most of a second, and many processes never check one. */
let compiled: ValidateFunction<UmboDocument> | undefined;

/**
 * A document from somewhere else.
 * @param before what it was, if it was anything: a fault that it had already is not held against a change
 * @throws Problem 'invalid' that says where it is broken
 */
export function checkDocument(value: unknown, before?: UmboDocument): UmboDocument {
  const validate = (compiled ??= new Ajv({ discriminator: true }).compile<UmboDocument>(documentSchema));
  if (validate(value)) {
    const fault = newFault(value, before);
    if (fault) throw new Problem('invalid', `The edit is not valid: ${fault}.`);
    return value;
  }
  const [error] = validate.errors!;
  throw new Problem('invalid', `The edit is not valid: ${error!.instancePath || 'the document'} ${error!.message}.`);
}

export interface Batch {
  /** Made by the sender; a batch that is sent again is accepted once. */
  id: string;
  /** The id of the database that the sender has the photograph from. */
  database: string;
  /** The revision that the changes begin from. */
  base: number;
  /** The batch that made that revision; null or left out: none did, or it is not known. A restored database may have another of that number. */
  after?: string | null;
  changes: Change[];
}

export interface Accepted {
  /** The revision after the batch. */
  revision: number;
  /** Whether it had arrived before. */
  repeated: boolean;
}

/** A batch is known again for this many revisions. */
const REMEMBERED = 1000;
/** Entries that are read at once. */
const ENTRIES = 5000;

export interface DocumentState {
  revision: number;
  /** The batch that made the revision; null: none did, or it is forgotten. */
  batch: string | null;
  position: number;
  document: UmboDocument;
  /** All entries, with their labels; the first `position` are in effect. */
  labels: string[];
}

/** What a window gets that had a revision of it: whether that is none of this history, for the database was set back since. */
export type SinceState = DocumentState & { anotherPast: boolean };

/** The edit as it is now, for a window that knows a revision of it. */
export const readSince = (db: Database, photographId: number, base: Base): Promise<SinceState> =>
  inTransaction(db, async (transaction) => {
    const row = await lockDocument(photographId, transaction, 'SHARE');
    return { ...(await readDocumentIn(photographId, transaction)), anotherPast: await isOfAnotherPast(row, base, transaction) };
  });

export const readDocument = (db: Database, photographId: number): Promise<DocumentState> =>
  inTransaction(db, (transaction) => readDocumentIn(photographId, transaction));

/** The same within a transaction, which the edit cannot change under. */
export async function readDocumentIn(photographId: number, transaction: Transaction): Promise<DocumentState> {
  const row = await lockDocument(photographId, transaction, 'SHARE');
  const rows = await HistoryRow.findAll({ where: { photographId }, attributes: ['label'], order: [['seq', 'ASC']], transaction });
  const last = await BatchRow.findOne({ where: { photographId, revision: row.revision }, attributes: ['id'], transaction });
  return {
    revision: row.revision,
    batch: last?.id ?? null,
    position: row.position,
    document: JSON.parse(row.body) as UmboDocument,
    labels: rows.map(({ label }) => label),
  };
}

/**
 * Entries `from` to `to` (counted from 0, `to` excluded), with their patches.
 * @throws Problem 'conflict' when the history is of another revision
 */
export async function readEntries(db: Database, photographId: number, from: number, to: number, revision: number): Promise<Entry[]> {
  if (to - from > ENTRIES) throw new Problem('invalid', `At most ${ENTRIES} entries are read at once.`);
  return inTransaction(db, async (transaction) => {
    const row = await lockDocument(photographId, transaction, 'SHARE');
    if (row.revision !== revision) throw changedElsewhere(row.revision);
    return (await entriesBetween(photographId, from, to, transaction)).map(toEntry);
  });
}

const changedElsewhere = (revision: number): Problem =>
  new Problem('conflict', 'The photograph was changed somewhere else in the meantime.', { revision });
/** A revision, and the batch that made it; null: none did, or it is not known. */
export type Base = Pick<Batch, 'base' | 'after'>;

/** Whether a revision is none of this history: the database was set back since, and what has its number now is another. */
async function isOfAnotherPast({ photographId, revision }: DocumentRow, { base, after }: Base, transaction: Transaction): Promise<boolean> {
  if (!after || base <= revision - REMEMBERED) return false;
  const begun = await BatchRow.findOne({ where: { photographId, revision: base }, attributes: ['id'], transaction });
  return begun?.id !== after;
}

const entriesBetween = (photographId: number, from: number, to: number, transaction: Transaction): Promise<HistoryRow[]> =>
  HistoryRow.findAll({ where: { photographId, seq: { [Op.gt]: from, [Op.lte]: to } }, order: [['seq', 'ASC']], transaction });

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
 * @throws Problem 'conflict' when the batch begins from another revision: nothing is written, the sender merges or asks
 * @throws Problem 'invalid' when the changes do not give a valid document
 */
export async function changeDocument(db: Database, photographId: number, batch: Batch): Promise<Accepted> {
  if (batch.database !== (await databaseId(db))) throw new Problem('refused', 'These changes are of a photograph in another database.');
  const travelled = batch.changes.reduce((sum, change) => sum + (change.type === 'go' ? Math.abs(change.to - change.from) : 0), 0);
  if (travelled > TRAVEL_LIMIT) throw new Problem('invalid', `One batch passes at most ${TRAVEL_LIMIT} entries of the history.`);
  return inTransaction(db, async (transaction) => {
    const row = await lockDocument(photographId, transaction, 'UPDATE');
    const known = await BatchRow.findOne({ where: { photographId, id: batch.id }, transaction });
    if (known) return { revision: known.revision, repeated: true };
    if (row.revision !== batch.base || (await isOfAnotherPast(row, batch, transaction))) throw changedElsewhere(row.revision);
    const before = JSON.parse(row.body) as UmboDocument;
    let document = before;
    let position = row.position;
    for (const change of batch.changes) {
      if (change.type === 'edit') {
        document = fitting(() => addEntry(document, change.entry));
        await HistoryRow.destroy({ where: { photographId, seq: { [Op.gt]: position } }, transaction });
        position++;
        const { id, label } = change.entry;
        const [patches, inverse] = [JSON.stringify(change.entry.patches), JSON.stringify(change.entry.inverse)];
        await HistoryRow.create({ photographId, seq: position, entryId: id, label, patches, inverse }, { transaction });
        await noteContents(db, `photograph-${photographId}`, patches, transaction);
      } else {
        if (change.from !== position) throw changedElsewhere(row.revision);
        const [low, high] = [Math.min(position, change.to), Math.max(position, change.to)];
        const rows = await entriesBetween(photographId, low, high, transaction);
        if (rows.length !== high - low) throw new Problem('invalid', 'The history has no such place.');
        document = fitting(() => travel(document, rows.map(toEntry), change.to < position ? 'back' : 'forth'));
        position = change.to;
      }
    }
    checkDocument(document, before);
    if (!sameValue(document.photo, before.photo)) throw new Problem('invalid', 'An edit stays with the photograph that it was made for.');
    await noteTreatments(db, photographId, before, document, transaction);
    const revision = row.revision + 1;
    await row.update({ revision, position, body: JSON.stringify(document) }, { transaction });
    await BatchRow.create({ photographId, id: batch.id, revision }, { transaction });
    await BatchRow.destroy({ where: { photographId, revision: { [Op.lt]: revision - REMEMBERED } }, transaction });
    await tell(db, 'document', [photographId], transaction, revision);
    await Photograph.update({ state: 'in work' }, { where: { id: photographId, state: 'untouched' }, transaction });
    return { revision, repeated: false };
  });
}

/** So often an edit may change while something is made for it. */
const TRIES = 20;

/**
 * Changes an edit as it is now, whatever windows do to it meanwhile.
 * @param make the changes for a state of the edit, with the id of their batch; asked again for an edit that changed. Null: there are none
 * @returns whether there were any
 */
export async function changeAsItIs(
  db: Database,
  photographId: number,
  make: (state: DocumentState) => Promise<Pick<Batch, 'id' | 'changes'> | null>,
): Promise<boolean> {
  for (let attempt = 1; ; attempt++) {
    const state = await readDocument(db, photographId);
    try {
      const made = await make(state);
      if (!made) return false;
      await changeDocument(db, photographId, { ...made, database: await databaseId(db), base: state.revision, after: state.batch });
      return true;
    } catch (error) {
      if (!(error instanceof Problem) || error.kind !== 'conflict' || attempt === TRIES) throw error;
    }
  }
}

function fitting(work: () => UmboDocument): UmboDocument {
  try {
    return work();
  } catch {
    throw new Problem('invalid', 'The changes do not fit the edit they were made for.');
  }
}
