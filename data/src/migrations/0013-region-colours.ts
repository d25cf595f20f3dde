import type { QueryInterface } from 'sequelize';

export const name = '0013-region-colours';

export async function up(q: QueryInterface): Promise<void> {
  await q.sequelize.query('ALTER TABLE previews ADD COLUMN IF NOT EXISTS regions TEXT NULL');
  // A cache: they are made again, with what regions are.
  await q.sequelize.query('DELETE FROM previews');
}

export async function down(q: QueryInterface): Promise<void> {
  await q.removeColumn('previews', 'regions');
}
