/** Small pictures of finished edits for the contact sheet: a cache, made by the render processes. */
import { QueryTypes, type Transaction } from 'sequelize';
import { type Database } from './database.ts';
import { tell } from './events.ts';

export interface Preview {
  revision: number;
  data: Buffer;
  /** Mean lightness L*, 0..100. */
  light: number | null;
}

export async function readPreview(db: Database, photographId: number): Promise<Preview | null> {
  const [row] = await db.query<Preview>('SELECT revision, data, light FROM previews WHERE photographId = $1', {
    bind: [photographId],
    type: QueryTypes.SELECT,
  });
  return row ?? null;
}

/** Which edits have a preview, and of which revision. */
export async function previewRevisions(db: Database, ids: readonly number[]): Promise<{ id: number; revision: number }[]> {
  return db.query('SELECT photographId id, revision FROM previews WHERE photographId IN (:ids)', {
    replacements: { ids },
    type: QueryTypes.SELECT,
  });
}

/** How light the edits of a shoot are, by photograph. */
export async function previewLights(db: Database, shootId: number): Promise<Map<number, number>> {
  const rows = await db.query<{ id: number; light: number }>(
    'SELECT p.id, v.light FROM previews v JOIN photographs p ON p.id = v.photographId WHERE p.shootId = $1 AND v.light IS NOT NULL',
    { bind: [shootId], type: QueryTypes.SELECT },
  );
  return new Map(rows.map(({ id, light }) => [id, light]));
}

/** Keeps a preview unless a newer one is there. */
export async function storePreview(
  db: Database,
  photographId: number,
  { revision, data, light }: Preview,
  transaction?: Transaction,
): Promise<void> {
  if (transaction) await tell(db, 'preview', [photographId], transaction, revision);
  await db.query(
    `INSERT INTO previews (photographId, revision, data, light) VALUES ($1, $2, $3, $4)
     ON DUPLICATE KEY UPDATE data = IF(VALUES(revision) >= revision, VALUES(data), data),
     light = IF(VALUES(revision) >= revision, VALUES(light), light), revision = GREATEST(revision, VALUES(revision))`,
    { bind: [photographId, revision, data, light], transaction },
  );
}
