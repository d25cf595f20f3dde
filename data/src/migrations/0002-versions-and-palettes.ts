import type { QueryInterface } from 'sequelize';

export const name = '0002-versions-and-palettes';

const tables = [
  `CREATE TABLE IF NOT EXISTS versions (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    photographId INT UNSIGNED NOT NULL,
    name VARCHAR(120) NOT NULL,
    body LONGTEXT NOT NULL,
    createdAt DATETIME(3) NOT NULL,
    KEY byPhotograph (photographId, id),
    FOREIGN KEY (photographId) REFERENCES photographs (id) ON DELETE CASCADE)`,
  `CREATE TABLE IF NOT EXISTS palettes (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    shootId INT UNSIGNED NOT NULL,
    name VARCHAR(120) NOT NULL,
    FOREIGN KEY (shootId) REFERENCES shoots (id) ON DELETE CASCADE)`,
  `CREATE TABLE IF NOT EXISTS swatches (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    paletteId INT UNSIGNED NOT NULL,
    name VARCHAR(120) NOT NULL,
    r DOUBLE NOT NULL,
    g DOUBLE NOT NULL,
    b DOUBLE NOT NULL,
    KEY byPalette (paletteId, id),
    FOREIGN KEY (paletteId) REFERENCES palettes (id) ON DELETE CASCADE)`,
];

export async function up(q: QueryInterface): Promise<void> {
  for (const table of tables) await q.sequelize.query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`);
}

export async function down(q: QueryInterface): Promise<void> {
  for (const table of ['swatches', 'palettes', 'versions']) await q.dropTable(table);
}
