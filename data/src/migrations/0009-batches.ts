import type { QueryInterface } from 'sequelize';

export const name = '0009-batches';

const statements = [
  `ALTER TABLE jobs
    ADD COLUMN IF NOT EXISTS batchId VARCHAR(40) CHARACTER SET ascii NULL,
    ADD COLUMN IF NOT EXISTS urgent BOOLEAN NOT NULL DEFAULT TRUE,
    ADD KEY IF NOT EXISTS byBatch (batchId, id)`,
  `CREATE TABLE IF NOT EXISTS presets (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    name VARCHAR(120) NOT NULL,
    body TEXT NOT NULL,
    UNIQUE KEY byName (name))
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`,
];

export async function up(q: QueryInterface): Promise<void> {
  for (const statement of statements) await q.sequelize.query(statement);
}

export async function down(q: QueryInterface): Promise<void> {
  await q.dropTable('presets');
  await q.sequelize.query('ALTER TABLE jobs DROP KEY IF EXISTS byBatch');
  for (const column of ['urgent', 'batchId']) await q.removeColumn('jobs', column);
}
