import { QueryTypes } from 'sequelize';
import { type Database } from './database.ts';

/** Facts about this database that belong to no shoot. */
export async function readSetting(db: Database, name: string): Promise<string | null> {
  const [row] = await db.query<{ value: string }>('SELECT value FROM settings WHERE name = $1', { bind: [name], type: QueryTypes.SELECT });
  return row?.value ?? null;
}

export async function writeSetting(db: Database, name: string, value: string): Promise<void> {
  await db.query('INSERT INTO settings (name, value) VALUES ($1, $2) ON DUPLICATE KEY UPDATE value = VALUES(value)', {
    bind: [name, value],
  });
}
