import type { QueryInterface } from 'sequelize';

export const name = '0003-masks';

const statements = [
  'ALTER TABLE photographs ADD COLUMN IF NOT EXISTS isMask BOOLEAN NOT NULL DEFAULT FALSE',
  `CREATE TABLE IF NOT EXISTS masks (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    shootId INT UNSIGNED NOT NULL,
    name VARCHAR(120) NOT NULL,
    body LONGTEXT NOT NULL,
    KEY byShoot (shootId, id),
    FOREIGN KEY (shootId) REFERENCES shoots (id) ON DELETE CASCADE)
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`,
];

export async function up(q: QueryInterface): Promise<void> {
  for (const statement of statements) await q.sequelize.query(statement);
}

export async function down(q: QueryInterface): Promise<void> {
  await q.dropTable('masks');
  await q.removeColumn('photographs', 'isMask');
}
