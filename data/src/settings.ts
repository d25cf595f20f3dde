import { QueryTypes } from 'sequelize';
import { type Database } from './database.ts';

/** Facts about this database that belong to no shoot. */
export async function readSetting(db: Database, name: string): Promise<string | null> {
  const [row] = await db.query<{ value: string }>('SELECT value FROM settings WHERE name = $1', { bind: [name], type: QueryTypes.SELECT });
  return row?.value ?? null;
}

const ids = new WeakMap<Database, string>();

/** The random id of this database, which no other has. */
export async function databaseId(db: Database): Promise<string> {
  let id = ids.get(db);
  if (id === undefined) {
    id = (await readSetting(db, 'database')) ?? undefined;
    if (id === undefined) throw new Error('The database has no id; it must be migrated first');
    ids.set(db, id);
  }
  return id;
}

export async function writeSetting(db: Database, name: string, value: string): Promise<void> {
  await db.query('INSERT INTO settings (name, value) VALUES ($1, $2) ON DUPLICATE KEY UPDATE value = VALUES(value)', {
    bind: [name, value],
  });
}
