import type { QueryInterface } from 'sequelize';

export const name = '0001-first';

const tables = [
  `CREATE TABLE IF NOT EXISTS settings (
    name VARCHAR(60) CHARACTER SET ascii NOT NULL PRIMARY KEY,
    value VARCHAR(200) NOT NULL)`,
  `CREATE TABLE IF NOT EXISTS shoots (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    name VARCHAR(120) NOT NULL,
    createdAt DATETIME(3) NOT NULL)`,
  `CREATE TABLE IF NOT EXISTS assets (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL UNIQUE,
    bytes BIGINT UNSIGNED NOT NULL,
    createdAt DATETIME(3) NOT NULL)`,
  `CREATE TABLE IF NOT EXISTS asset_chunks (
    assetId INT UNSIGNED NOT NULL,
    seq INT UNSIGNED NOT NULL,
    data MEDIUMBLOB NOT NULL,
    PRIMARY KEY (assetId, seq),
    FOREIGN KEY (assetId) REFERENCES assets (id) ON DELETE CASCADE)`,
  `CREATE TABLE IF NOT EXISTS photographs (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    shootId INT UNSIGNED NOT NULL,
    assetId INT UNSIGNED NOT NULL,
    name VARCHAR(255) NOT NULL,
    width INT UNSIGNED NOT NULL,
    height INT UNSIGNED NOT NULL,
    bits TINYINT UNSIGNED NOT NULL,
    profile VARCHAR(120) NOT NULL,
    state ENUM('untouched', 'in work', 'done') NOT NULL DEFAULT 'untouched',
    createdAt DATETIME(3) NOT NULL,
    KEY byShoot (shootId, id),
    FOREIGN KEY (shootId) REFERENCES shoots (id) ON DELETE CASCADE,
    FOREIGN KEY (assetId) REFERENCES assets (id))`,
  `CREATE TABLE IF NOT EXISTS documents (
    photographId INT UNSIGNED NOT NULL PRIMARY KEY,
    revision INT UNSIGNED NOT NULL,
    position INT UNSIGNED NOT NULL,
    lastBatch VARCHAR(40) CHARACTER SET ascii NOT NULL DEFAULT '',
    body LONGTEXT NOT NULL,
    FOREIGN KEY (photographId) REFERENCES photographs (id) ON DELETE CASCADE)`,
  `CREATE TABLE IF NOT EXISTS history (
    photographId INT UNSIGNED NOT NULL,
    seq INT UNSIGNED NOT NULL,
    entryId VARCHAR(40) CHARACTER SET ascii NOT NULL,
    label VARCHAR(200) NOT NULL,
    patches LONGTEXT NOT NULL,
    inverse LONGTEXT NOT NULL,
    createdAt DATETIME(3) NOT NULL,
    PRIMARY KEY (photographId, seq),
    FOREIGN KEY (photographId) REFERENCES photographs (id) ON DELETE CASCADE)`,
  `CREATE TABLE IF NOT EXISTS previews (
    photographId INT UNSIGNED NOT NULL PRIMARY KEY,
    revision INT UNSIGNED NOT NULL,
    data MEDIUMBLOB NOT NULL,
    FOREIGN KEY (photographId) REFERENCES photographs (id) ON DELETE CASCADE)`,
  `CREATE TABLE IF NOT EXISTS jobs (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    kind ENUM('preview', 'hand-over') NOT NULL,
    photographId INT UNSIGNED NOT NULL,
    state ENUM('queued', 'running', 'done', 'failed', 'cancelled') NOT NULL DEFAULT 'queued',
    options TEXT NOT NULL,
    document LONGTEXT NOT NULL,
    revision INT UNSIGNED NOT NULL,
    progress FLOAT NOT NULL DEFAULT 0,
    attempts INT UNSIGNED NOT NULL DEFAULT 0,
    leaseUntil DATETIME(3) NULL,
    leaseHolder VARCHAR(40) CHARACTER SET ascii NULL,
    assetId INT UNSIGNED NULL,
    error VARCHAR(500) NULL,
    createdAt DATETIME(3) NOT NULL,
    endedAt DATETIME(3) NULL,
    KEY taking (state, id),
    KEY byPhotograph (photographId, kind, state),
    FOREIGN KEY (photographId) REFERENCES photographs (id) ON DELETE CASCADE,
    FOREIGN KEY (assetId) REFERENCES assets (id))`,
];

export async function up(q: QueryInterface): Promise<void> {
  for (const table of tables) await q.sequelize.query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`);
}

export async function down(q: QueryInterface): Promise<void> {
  for (const table of ['jobs', 'previews', 'history', 'documents', 'photographs', 'asset_chunks', 'assets', 'shoots', 'settings'])
    await q.dropTable(table);
}
