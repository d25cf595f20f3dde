import type { QueryInterface } from 'sequelize';

export const name = '0014-treatments';

const TABLE = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci';

const statements = [
  `CREATE TABLE IF NOT EXISTS treatments (
    id VARCHAR(40) CHARACTER SET ascii NOT NULL PRIMARY KEY,
    name VARCHAR(120) NOT NULL,
    note TEXT NOT NULL,
    version INT UNSIGNED NOT NULL,
    createdAt DATETIME(3) NOT NULL) ${TABLE}`,
  // Every version is kept: photographs that use an older one are brought up to date from there.
  `CREATE TABLE IF NOT EXISTS treatment_versions (
    treatmentId VARCHAR(40) CHARACTER SET ascii NOT NULL,
    version INT UNSIGNED NOT NULL,
    body LONGTEXT NOT NULL,
    solve TEXT NOT NULL,
    sourceSha256 CHAR(64) CHARACTER SET ascii NOT NULL,
    picture MEDIUMBLOB NULL,
    createdAt DATETIME(3) NOT NULL,
    PRIMARY KEY (treatmentId, version),
    FOREIGN KEY (treatmentId) REFERENCES treatments (id) ON DELETE CASCADE) ${TABLE}`,
  // What would come of a carry that changes nothing yet.
  `CREATE TABLE IF NOT EXISTS trials (
    jobId INT UNSIGNED NOT NULL PRIMARY KEY,
    picture MEDIUMBLOB NOT NULL,
    FOREIGN KEY (jobId) REFERENCES jobs (id) ON DELETE CASCADE) ${TABLE}`,
  // A cache: regions that no layer uses were not measured.
  'DELETE FROM previews',
  'ALTER TABLE carries ADD COLUMN IF NOT EXISTS isTrial BOOLEAN NOT NULL DEFAULT FALSE',
  'ALTER TABLE carries ADD COLUMN IF NOT EXISTS treatmentId VARCHAR(40) CHARACTER SET ascii NULL',
  'ALTER TABLE carries ADD COLUMN IF NOT EXISTS treatmentVersion INT UNSIGNED NULL',
];

export async function up(q: QueryInterface): Promise<void> {
  for (const statement of statements) await q.sequelize.query(statement);
}

export async function down(q: QueryInterface): Promise<void> {
  await q.sequelize.query(
    "DELETE FROM jobs WHERE kind = 'carry' AND batchId IN (SELECT id FROM carries WHERE isTrial OR treatmentId IS NOT NULL)",
  );
  await q.sequelize.query('DELETE FROM carries WHERE isTrial OR treatmentId IS NOT NULL');
  for (const column of ['isTrial', 'treatmentId', 'treatmentVersion']) await q.removeColumn('carries', column);
  for (const table of ['trials', 'treatment_versions', 'treatments']) await q.dropTable(table);
}
