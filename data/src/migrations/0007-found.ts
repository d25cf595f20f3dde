import type { QueryInterface } from 'sequelize';

export const name = '0007-found';

export async function up(q: QueryInterface): Promise<void> {
  await q.sequelize.query('ALTER TABLE photographs ADD COLUMN IF NOT EXISTS isFound BOOLEAN NOT NULL DEFAULT FALSE');
}

export async function down(q: QueryInterface): Promise<void> {
  await q.removeColumn('photographs', 'isFound');
}
