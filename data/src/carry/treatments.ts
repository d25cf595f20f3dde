/** Ways of working that are kept for every shoot, all their versions, and the photographs that use them. */
import { after, eachLayer, entryBetween, findLayer, type UmboDocument } from '@umbo/core/document';
import { asNextVersion, faultOfTreatment, starters, treatmentFrom, type Treatment } from '@umbo/core/treatment';
import { Op, QueryTypes, type Transaction } from 'sequelize';
import { inTransaction, once, type Database } from '../database.ts';
import { changeAsItIs, checkDocument, readDocument } from '../documents.ts';
import { TreatmentRow, TreatmentVersionRow } from '../models.ts';
import { findPhotograph, photographContent } from '../photographs.ts';
import { readPreview } from '../previews.ts';
import { Problem } from '@umbo/core/base';
import { noteContents } from '../references.ts';

const LIMIT = 500;

export interface TreatmentSummary {
  id: string;
  name: string;
  note: string;
  /** The newest. */
  version: number;
  /** Whether it is one that everybody has, and nobody changes. */
  isStarter: boolean;
  hasPicture: boolean;
}

export interface TreatmentDetail extends TreatmentSummary {
  document: UmboDocument;
  /** The layers whose settings are found anew on each photograph. */
  solve: readonly string[];
  /** Of the photograph that it was made on; empty: not known. */
  sha256: string;
}

/** Which version of a treatment a photograph's layers came from. */
export interface TreatmentUse {
  photographId: number;
  name: string;
  revision: number;
  shootId: number;
  shoot: string;
  version: number;
}

const starter = (id: string): TreatmentDetail | null => {
  const found = starters.find((one) => one.id === id);
  return found ? { ...found, version: 1, isStarter: true, hasPicture: false, sha256: '' } : null;
};

/** The user's own, the newest first, and then those that everybody has. */
export async function listTreatments(): Promise<TreatmentSummary[]> {
  const rows = await TreatmentRow.findAll({ order: [['createdAt', 'DESC']] });
  const own = await Promise.all(rows.map(async (row) => summaryOf(row)));
  return [...own, ...starters.map(({ id, name, note }) => ({ id, name, note, version: 1, isStarter: true, hasPicture: false }))];
}

async function summaryOf({ id, name, note, version }: TreatmentRow): Promise<TreatmentSummary> {
  const pictures = await TreatmentVersionRow.count({ where: { treatmentId: id, version, picture: { [Op.ne]: null } } });
  return { id, name, note, version, isStarter: false, hasPicture: pictures > 0 };
}

async function rowOf(id: string): Promise<TreatmentRow> {
  if (starter(id))
    throw new Problem('refused', 'A treatment that everybody has is not changed. Save one of your own from a photograph that uses it.');
  const row = await TreatmentRow.findByPk(id);
  if (!row) throw new Problem('not-found', 'This treatment does not exist (any more).');
  return row;
}

/** One version of what a treatment does. */
export async function readVersionOf(id: string, version: number): Promise<Pick<TreatmentDetail, 'document' | 'solve' | 'sha256'>> {
  const known = starter(id);
  if (known) return known;
  const row = await TreatmentVersionRow.findOne({ where: { treatmentId: id, version }, attributes: { exclude: ['picture'] } });
  if (!row) throw new Problem('not-found', 'This version of the treatment does not exist (any more).');
  return { document: JSON.parse(row.body) as UmboDocument, solve: JSON.parse(row.solve) as string[], sha256: row.sourceSha256 };
}

export async function readTreatment(id: string): Promise<TreatmentDetail> {
  const known = starter(id);
  if (known) return known;
  const row = await rowOf(id);
  return { ...(await summaryOf(row)), ...(await readVersionOf(id, row.version)) };
}

export async function readTreatmentPicture(id: string): Promise<Buffer> {
  const { version } = await rowOf(id);
  const row = await TreatmentVersionRow.findOne({ where: { treatmentId: id, version }, attributes: ['picture'] });
  if (!row?.picture) throw new Problem('not-found', 'There is no picture of this treatment.');
  return row.picture;
}

/** @throws Problem 'invalid' that says what is wrong with it */
function checked({ document, solve }: Pick<Treatment, 'document' | 'solve'>): void {
  const fault = faultOfTreatment({ document: checkDocument(document), solve });
  if (fault) throw new Problem('invalid', `The treatment is not valid: ${fault}.`);
}

/** The photograph that a version was made on: its SHA-256, empty where that is not known, and how it looked. */
interface MadeOn {
  sha256: string;
  picture: Buffer | null;
}

/**
 * Keeps a treatment that comes from elsewhere, such as a file.
 * @param key of the caller; it is kept once under it
 */
export async function addTreatment(
  db: Database,
  key: string,
  treatment: Treatment,
  from: MadeOn = { sha256: '', picture: null },
): Promise<{ id: string; version: number }> {
  checked(treatment);
  if ((await TreatmentRow.count()) >= LIMIT) throw new Problem('refused', `At most ${LIMIT} treatments are kept. Remove one first.`);
  const { name, note, document, solve } = treatment;
  return once(db, `treatment-${key}`, async (transaction) => {
    const id = crypto.randomUUID();
    await TreatmentRow.create({ id, name, note, version: 1 }, { transaction });
    return keepVersionAs(db, id, 1, { document, solve }, from, transaction);
  });
}

async function keepVersionAs(
  db: Database,
  id: string,
  version: number,
  { document, solve }: Pick<Treatment, 'document' | 'solve'>,
  { sha256, picture }: MadeOn,
  transaction: Transaction,
): Promise<{ id: string; version: number }> {
  const body = { body: JSON.stringify(document), solve: JSON.stringify(solve) };
  await noteContents(db, `treatment-${id}`, body.body, transaction);
  await TreatmentVersionRow.create({ treatmentId: id, version, ...body, sourceSha256: sha256, picture }, { transaction });
  return { id, version };
}

/** Layers of a photograph's edit that are to be kept as a treatment. */
export interface TreatmentWish {
  photographId: number;
  layers: readonly string[];
  solve: readonly string[];
  name: string;
  note: string;
  /** The treatment that this is the next version of; null: it is a new one. */
  of: string | null;
}

/** Keeps layers of a photograph, as its edit is on the server now, as a treatment or as the next version of one. */
export async function saveTreatment(
  db: Database,
  key: string,
  { photographId, layers, solve, name, note, of }: TreatmentWish,
): Promise<{ id: string; version: number }> {
  const { document } = await readDocument(db, photographId);
  const there = layers.filter((id) => findLayer(document, id));
  if (there.length === 0) throw new Problem('invalid', 'Nothing was chosen that could be kept.');
  const made = treatmentFrom(document, there, name, () => `treatment-${key}`.slice(0, 40));
  const sha256 = await photographContent(db, await findPhotograph(photographId));
  const picture = (await readPreview(db, photographId))?.data ?? null;
  if (of === null) return addTreatment(db, key, { name, note, document: made, solve }, { sha256, picture });
  const row = await rowOf(of);
  const basedOn = row.version;
  const before = await readVersionOf(of, basedOn);
  const next = asNextVersion(made, before.document);
  const ids = new Map(Array.from(eachLayer(made.layers), ({ id }, i): [string, string] => [id, [...eachLayer(next.layers)][i]!.id]));
  const treatment = { name, note, document: next, solve: solve.map((id) => ids.get(id) ?? id) };
  checked(treatment);
  return once(db, `treatment-${key}`, async (transaction) => {
    await row.reload({ transaction, lock: transaction.LOCK.UPDATE });
    if (row.version !== basedOn) throw new Problem('conflict', `“${row.name}” has another version meanwhile: look at that first.`);
    const version = row.version + 1;
    await row.update({ name, note, version }, { transaction });
    return keepVersionAs(db, of, version, treatment, { sha256, picture }, transaction);
  });
}

/** Changes how a treatment is called, what is noted of it, and which of its layers are found anew, without a new version. */
export async function changeTreatment(
  db: Database,
  id: string,
  { name, note, solve }: { name: string; note: string; solve: readonly string[] },
): Promise<void> {
  const row = await rowOf(id);
  checked({ document: (await readVersionOf(id, row.version)).document, solve });
  await inTransaction(db, async (transaction) => {
    await row.update({ name, note }, { transaction });
    await TreatmentVersionRow.update({ solve: JSON.stringify(solve) }, { where: { treatmentId: id, version: row.version }, transaction });
  });
}

/** Photographs keep the layers that came from it. */
export async function removeTreatment(id: string): Promise<void> {
  await (await rowOf(id)).destroy();
}

/** The mark of a treatment in an edit; undefined: none of its layers came from there. */
export const markIn = ({ layers }: UmboDocument, id: string): { id: string; version: number } | undefined =>
  [...eachLayer(layers)].find(({ treatment }) => treatment?.id === id)?.treatment;

/** The edit of a treatment, whose group says where it came from. */
export const markedAs = (document: UmboDocument, { id, version }: { id: string; version: number }): UmboDocument => ({
  ...document,
  layers: document.layers.map((layer) => ({ ...layer, treatment: { id, version } })),
});

/** The photographs whose edits have layers of a treatment. */
export const treatmentUses = (db: Database, id: string): Promise<TreatmentUse[]> =>
  db.query<TreatmentUse>(
    `SELECT p.id photographId, p.name, d.revision, s.id shootId, s.name shoot, u.version FROM treatment_uses u
     JOIN documents d ON d.photographId = u.photographId JOIN photographs p ON p.id = u.photographId JOIN shoots s ON s.id = p.shootId
     WHERE p.removedAt IS NULL AND u.treatmentId = :id ORDER BY s.id, p.name, p.id`,
    { replacements: { id }, type: QueryTypes.SELECT },
  );

/** The layers stay, and are the photograph's own: the treatment does not reach them any more. */
export async function letGoOf(db: Database, id: string, photographId: number): Promise<void> {
  await changeAsItIs(db, photographId, async ({ document, revision }) => {
    const own = [...eachLayer(document.layers)].filter(({ treatment }) => treatment?.id === id);
    if (own.length === 0) return null;
    const next = after(document, (draft) => {
      for (const layer of eachLayer(draft.layers)) {
        if (layer.treatment?.id !== id) continue;
        delete layer.treatment;
        delete layer.carried;
      }
    });
    const entry = entryBetween(`let-go-${photographId}-${revision}`, `${own[0]!.name} let go of its treatment`, document, next);
    return { id: entry.id, changes: [{ type: 'edit', entry }] };
  });
}
