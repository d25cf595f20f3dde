import type { QueryInterface } from 'sequelize';

export const name = '0012-carries';

const statements = [
  // What was carried is kept as it was: the next time, only what changed since can be brought.
  `CREATE TABLE IF NOT EXISTS carries (
    id VARCHAR(40) CHARACTER SET ascii NOT NULL PRIMARY KEY,
    shootId INT UNSIGNED NOT NULL,
    sourceId INT UNSIGNED NULL,
    sourceName VARCHAR(255) NOT NULL,
    sourceSha256 CHAR(64) CHARACTER SET ascii NOT NULL,
    how VARCHAR(20) CHARACTER SET ascii NOT NULL,
    choice TEXT NOT NULL,
    body LONGTEXT NOT NULL,
    createdAt DATETIME(3) NOT NULL,
    KEY byShoot (shootId, createdAt),
    FOREIGN KEY (shootId) REFERENCES shoots (id) ON DELETE CASCADE,
    FOREIGN KEY (sourceId) REFERENCES photographs (id) ON DELETE SET NULL)
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`,
  'ALTER TABLE jobs ADD COLUMN IF NOT EXISTS outcome LONGTEXT NULL',
];

export async function up(q: QueryInterface): Promise<void> {
  for (const statement of statements) await q.sequelize.query(statement);
}

export async function down(q: QueryInterface): Promise<void> {
  await q.sequelize.query("DELETE FROM jobs WHERE kind = 'carry'");
  await q.removeColumn('jobs', 'outcome');
  await q.dropTable('carries');
}
