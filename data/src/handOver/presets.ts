/** Settings of hand-overs that are kept under a name. */
import { inTransaction, type Database } from '../database.ts';
import { QueryTypes } from 'sequelize';
import type { BatchWish } from './batches.ts';
import { Problem } from '@umbo/core/base';

export type PresetSettings = Omit<BatchWish, 'photographs'>;
export interface Preset {
  id: number;
  name: string;
  settings: PresetSettings;
}

const MOST = 200;

export async function listPresets(db: Database): Promise<Preset[]> {
  const rows = await db.query<{ id: number; name: string; body: string }>('SELECT id, name, body FROM presets ORDER BY name', {
    type: QueryTypes.SELECT,
  });
  return rows.map(({ id, name, body }) => ({ id, name, settings: JSON.parse(body) as PresetSettings }));
}

/** Keeps settings; those that are kept under the name already give way. */
export async function keepPreset(db: Database, name: string, settings: PresetSettings): Promise<void> {
  if ((await listPresets(db)).filter((one) => one.name !== name).length >= MOST)
    throw new Problem('refused', `At most ${MOST} settings are kept. Remove one first.`);
  await inTransaction(db, (transaction) =>
    db.query('INSERT INTO presets (name, body) VALUES ($1, $2) ON DUPLICATE KEY UPDATE body = VALUES(body)', {
      bind: [name, JSON.stringify(settings)],
      transaction,
    }),
  );
}

export async function removePreset(db: Database, id: number): Promise<void> {
  await inTransaction(db, (transaction) => db.query('DELETE FROM presets WHERE id = $1', { bind: [id], transaction }));
}
