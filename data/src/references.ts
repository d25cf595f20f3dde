/** Which files edits name, and which treatments their layers came from: kept in tables, so that nobody has to read all edits for it. */
import { eachLayer, type UmboDocument } from '@umbo/core/document';
import { QueryTypes, type Transaction } from 'sequelize';
import { contentOf, dropUnusedAssets } from './assets.ts';
import { inTransaction, type Database } from './database.ts';
import { MaskPictureRow } from './models.ts';
import { dropUnusedLevels } from './photographs.ts';

/** What names files. */
export type Owner = `photograph-${number}` | `mask-${number}` | `carry-${string}` | `treatment-${string}`;

/** The SHA-256 of files that an edit, or a change of one, names. */
const contentsIn = (text: string): string[] => [...new Set(text.match(/\b[0-9a-f]{64}\b/g))];

/** Notes which files an owner names. What it named before stays noted: its history may come back to it. */
export async function noteContents(db: Database, owner: Owner, text: string, transaction: Transaction): Promise<void> {
  const contents = contentsIn(text);
  if (contents.length === 0) return;
  await db.query('INSERT IGNORE INTO content_names (owner, sha256) VALUES :rows', {
    replacements: { rows: contents.map((sha256) => [owner, sha256]) },
    transaction,
  });
}

const treatmentsIn = ({ layers }: UmboDocument): Map<string, number> =>
  new Map([...eachLayer(layers)].flatMap(({ treatment }) => (treatment ? [[treatment.id, treatment.version] as const] : [])));

/** Notes which treatments the layers of an edit came from, where that is another than before. */
export async function noteTreatments(
  db: Database,
  photographId: number,
  before: UmboDocument,
  after: UmboDocument,
  transaction: Transaction,
): Promise<void> {
  const [was, is] = [treatmentsIn(before), treatmentsIn(after)];
  if (was.size === is.size && [...is].every(([id, version]) => was.get(id) === version)) return;
  await db.query('DELETE FROM treatment_uses WHERE photographId = :photographId', { replacements: { photographId }, transaction });
  if (is.size > 0)
    await db.query('INSERT INTO treatment_uses (photographId, treatmentId, version) VALUES :rows', {
      replacements: { rows: [...is].map(([id, version]) => [photographId, id, version]) },
      transaction,
    });
}

/** Owners that are gone, by what they are called and the table they were in. */
const TABLES = [
  ['photograph', 'photographs'],
  ['mask', 'masks'],
  ['carry', 'carries'],
  ['treatment', 'treatments'],
] as const;

/** Days after which a mask goes that nothing names: one that was found, and one that somebody imported. */
const FOUND_DAYS = 1;
const IMPORTED_DAYS = 30;

/** Lets go of masks and files that nothing names any more. */
export async function sweepReferences(db: Database, cache: string): Promise<void> {
  for (const [name, table] of TABLES)
    await db.query(
      `DELETE n FROM content_names n WHERE n.owner LIKE '${name}-%'
       AND NOT EXISTS (SELECT 1 FROM ${table} t WHERE CONVERT(t.id, CHAR) = SUBSTRING(n.owner, ${name.length + 2}))`,
    );
  const masks = await db.query<{ id: number; assetId: number }>(
    `SELECT m.id, m.assetId FROM mask_pictures m JOIN assets a ON a.id = m.assetId
     WHERE m.createdAt < UTC_TIMESTAMP(3) - INTERVAL IF(m.isFound, ${FOUND_DAYS}, ${IMPORTED_DAYS}) DAY
     AND NOT EXISTS (SELECT 1 FROM content_names n WHERE n.sha256 = a.sha256)`,
    { type: QueryTypes.SELECT },
  );
  const files = await db.query<{ id: number }>(
    `SELECT id FROM assets WHERE createdAt < UTC_TIMESTAMP(3) - INTERVAL 1 DAY AND id NOT IN (SELECT assetId FROM photographs)
     AND id NOT IN (SELECT assetId FROM mask_pictures) AND id NOT IN (SELECT assetId FROM jobs WHERE assetId IS NOT NULL)`,
    { type: QueryTypes.SELECT },
  );
  const assets = [...masks.map(({ assetId }) => assetId), ...files.map(({ id }) => id)];
  const content = await contentOf(db, assets);
  await inTransaction(db, async (transaction) => {
    await MaskPictureRow.destroy({ where: { id: masks.map(({ id }) => id) }, transaction });
    await dropUnusedAssets(db, assets, transaction);
  });
  await dropUnusedLevels(db, cache, content);
}
