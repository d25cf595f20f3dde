import { QueryTypes, type QueryInterface } from 'sequelize';

export const name = '0016-references';

const ASCII = 'CHARACTER SET ascii COLLATE ascii_bin';

const statements = [
  // Which files edits name, by their content: what nothing names can go, and what moves is known without reading all that was ever done.
  `CREATE TABLE IF NOT EXISTS content_names (
    owner VARCHAR(60) ${ASCII} NOT NULL,
    sha256 CHAR(64) CHARACTER SET ascii NOT NULL,
    PRIMARY KEY (owner, sha256),
    KEY byContent (sha256)) ENGINE=InnoDB`,
  `CREATE TABLE IF NOT EXISTS treatment_uses (
    photographId INT UNSIGNED NOT NULL,
    treatmentId VARCHAR(40) CHARACTER SET ascii NOT NULL,
    version INT UNSIGNED NOT NULL,
    PRIMARY KEY (photographId, treatmentId),
    KEY byTreatment (treatmentId),
    FOREIGN KEY (photographId) REFERENCES photographs (id) ON DELETE CASCADE) ENGINE=InnoDB`,
  // When each queue of jobs had its last turn.
  `CREATE TABLE IF NOT EXISTS turns (
    lane VARCHAR(40) ${ASCII} NOT NULL,
    queue VARCHAR(100) ${ASCII} NOT NULL,
    takenAt DATETIME(6) NOT NULL,
    PRIMARY KEY (lane, queue)) ENGINE=InnoDB`,
  'ALTER TABLE jobs ADD COLUMN IF NOT EXISTS startedAt DATETIME(3) NULL',
  // Durations of jobs of each kind, for whoever waits: the last few.
  `CREATE TABLE IF NOT EXISTS durations (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    kind VARCHAR(20) ${ASCII} NOT NULL,
    seconds FLOAT NOT NULL,
    KEY byKind (kind, id)) ENGINE=InnoDB`,
];

/** Where edits are kept: what the owner of a row is called, and which of its columns name files. */
const BODIES = [
  ["CONCAT('photograph-', photographId)", 'documents', 'body'],
  ["CONCAT('photograph-', photographId)", 'versions', 'body'],
  ["CONCAT('photograph-', photographId)", 'history', "CONCAT(patches, ' ', inverse)"],
  ["CONCAT('carry-', id)", 'carries', 'body'],
  ["CONCAT('mask-', id)", 'masks', 'body'],
  ["CONCAT('treatment-', treatmentId)", 'treatment_versions', 'body'],
] as const;
const ROWS = 200;

export async function up(q: QueryInterface): Promise<void> {
  const db = q.sequelize;
  for (const statement of statements) await db.query(statement);
  for (const [owner, table, body] of BODIES)
    for (let from = 0; ; from += ROWS) {
      const rows = await db.query<{ owner: string; body: string }>(
        `SELECT ${owner} owner, ${body} body FROM ${table} ORDER BY 1 LIMIT ${ROWS} OFFSET ${from}`,
        { type: QueryTypes.SELECT },
      );
      for (const row of rows)
        for (const sha256 of new Set(row.body.match(/\b[0-9a-f]{64}\b/g)))
          await db.query('INSERT IGNORE INTO content_names (owner, sha256) VALUES ($1, $2)', { bind: [row.owner, sha256] });
      if (rows.length < ROWS) break;
    }
  const used = await db.query<{ photographId: number; body: string }>(
    `SELECT photographId, body FROM documents WHERE body LIKE '%"treatment":{%'`,
    { type: QueryTypes.SELECT },
  );
  for (const { photographId, body } of used)
    for (const [, id, version] of body.matchAll(/"treatment":\{"id":"([^"]+)","version":(\d+)\}/g))
      await db.query('INSERT IGNORE INTO treatment_uses (photographId, treatmentId, version) VALUES ($1, $2, $3)', {
        bind: [photographId, id!, Number(version)],
      });
}

export async function down(q: QueryInterface): Promise<void> {
  for (const table of ['content_names', 'treatment_uses', 'turns', 'durations']) await q.dropTable(table);
  await q.removeColumn('jobs', 'startedAt');
}
