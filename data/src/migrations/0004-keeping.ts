import { randomUUID } from 'node:crypto';
import type { QueryInterface } from 'sequelize';

export const name = '0004-keeping';

const statements = [
  // Batches that arrived: one that is sent again is accepted once, whatever came in between.
  `CREATE TABLE IF NOT EXISTS batches (
    photographId INT UNSIGNED NOT NULL,
    id VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    revision INT UNSIGNED NOT NULL,
    PRIMARY KEY (photographId, id),
    KEY byRevision (photographId, revision),
    FOREIGN KEY (photographId) REFERENCES photographs (id) ON DELETE CASCADE)
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`,
  // Transactions that happened, by the keys of their callers.
  `CREATE TABLE IF NOT EXISTS works (
    id VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
    result LONGTEXT NOT NULL,
    createdAt DATETIME(3) NOT NULL,
    KEY byAge (createdAt))
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`,
  // What is done for a file that is no photograph yet has none; kinds grow without a change of the table.
  'ALTER TABLE jobs MODIFY photographId INT UNSIGNED NULL, MODIFY kind VARCHAR(20) CHARACTER SET ascii NOT NULL',
  'ALTER TABLE documents DROP COLUMN IF EXISTS lastBatch',
  // Small pictures hold nothing that cannot be made again.
  "DELETE FROM jobs WHERE kind = 'preview'",
];

export async function up(q: QueryInterface): Promise<void> {
  for (const statement of statements) await q.sequelize.query(statement);
  await q.sequelize.query("INSERT IGNORE INTO settings (name, value) VALUES ('database', $1)", { bind: [randomUUID()] });
}

export async function down(q: QueryInterface): Promise<void> {
  await q.sequelize.query("ALTER TABLE documents ADD COLUMN IF NOT EXISTS lastBatch VARCHAR(40) CHARACTER SET ascii NOT NULL DEFAULT ''");
  for (const table of ['works', 'batches']) await q.dropTable(table);
}
