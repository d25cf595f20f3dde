import type { QueryInterface } from 'sequelize';

export const name = '0010-geometry';

export async function up(q: QueryInterface): Promise<void> {
  await q.sequelize.query(
    'ALTER TABLE jobs ADD COLUMN IF NOT EXISTS width INT UNSIGNED NULL, ADD COLUMN IF NOT EXISTS height INT UNSIGNED NULL',
  );
}

export async function down(q: QueryInterface): Promise<void> {
  for (const column of ['height', 'width']) await q.removeColumn('jobs', column);
}
