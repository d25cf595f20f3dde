/** Small pictures of finished edits for the contact sheet: a cache, made by the render processes. */
import { QueryTypes, type Transaction } from 'sequelize';
import { type Database } from './database.ts';
import { tell } from './events.ts';

export interface Preview {
  revision: number;
  data: Buffer;
}

export async function readPreview(db: Database, photographId: number): Promise<Preview | null> {
  const [row] = await db.query<Preview>('SELECT revision, data FROM previews WHERE photographId = $1', {
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

/** Keeps a preview unless a newer one is there. */
export async function storePreview(
  db: Database,
  photographId: number,
  { revision, data }: Preview,
  transaction?: Transaction,
): Promise<void> {
  if (transaction) await tell(db, 'preview', [photographId], transaction, revision);
  await db.query(
    `INSERT INTO previews (photographId, revision, data) VALUES ($1, $2, $3)
     ON DUPLICATE KEY UPDATE data = IF(VALUES(revision) >= revision, VALUES(data), data), revision = GREATEST(revision, VALUES(revision))`,
    { bind: [photographId, revision, data], transaction },
  );
}
