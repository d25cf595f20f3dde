import { QueryTypes, type QueryInterface } from 'sequelize';

export const name = '0017-asked-edits';

const statements = [
  // Edits as they were when files of them were asked for: each is kept once, by its content.
  `CREATE TABLE IF NOT EXISTS asked_edits (
    sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
    body LONGTEXT NOT NULL) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`,
  `ALTER TABLE jobs
    ADD COLUMN IF NOT EXISTS edit CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
    ADD KEY IF NOT EXISTS byEdit (edit),
    ADD FOREIGN KEY IF NOT EXISTS jobsOfEdit (edit) REFERENCES asked_edits (sha256)`,
];

export async function up(q: QueryInterface): Promise<void> {
  const db = q.sequelize;
  for (const statement of statements) await db.query(statement);
  const columns = await db.query("SHOW COLUMNS FROM jobs LIKE 'document'", { type: QueryTypes.SELECT });
  if (columns.length === 0) return;
  await db.query(`INSERT IGNORE INTO asked_edits (sha256, body) SELECT SHA2(document, 256), document FROM jobs WHERE kind = 'hand-over'`);
  await db.query(`UPDATE jobs SET edit = SHA2(document, 256) WHERE kind = 'hand-over'`);
  await db.query('ALTER TABLE jobs DROP COLUMN IF EXISTS document');
}

export async function down(q: QueryInterface): Promise<void> {
  const db = q.sequelize;
  await db.query("ALTER TABLE jobs ADD COLUMN IF NOT EXISTS document LONGTEXT NOT NULL DEFAULT '{}' AFTER options");
  await db.query('UPDATE jobs j JOIN asked_edits e ON e.sha256 = j.edit SET j.document = e.body');
  await db.query('ALTER TABLE jobs DROP FOREIGN KEY IF EXISTS jobsOfEdit, DROP KEY IF EXISTS byEdit, DROP COLUMN IF EXISTS edit');
  await q.dropTable('asked_edits');
}
