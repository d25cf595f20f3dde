import { QueryTypes, type QueryInterface } from 'sequelize';

export const name = '0018-mask-pictures';

const tables = [
  // Masks that were imported or found have no edit, no bin and no state: they are no photographs.
  `CREATE TABLE IF NOT EXISTS mask_pictures (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    shootId INT UNSIGNED NOT NULL,
    assetId INT UNSIGNED NOT NULL,
    name VARCHAR(255) NOT NULL,
    width INT UNSIGNED NOT NULL,
    height INT UNSIGNED NOT NULL,
    isFound BOOLEAN NOT NULL,
    createdAt DATETIME(3) NOT NULL,
    KEY byShoot (shootId, id),
    KEY byAsset (assetId),
    FOREIGN KEY (shootId) REFERENCES shoots (id) ON DELETE CASCADE,
    FOREIGN KEY (assetId) REFERENCES assets (id))
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`,
  `ALTER TABLE jobs ADD COLUMN IF NOT EXISTS maskPictureId INT UNSIGNED NULL,
    ADD FOREIGN KEY IF NOT EXISTS jobs_of_mask_pictures (maskPictureId) REFERENCES mask_pictures (id) ON DELETE CASCADE`,
];

/** They keep their numbers. */
const moves = [
  `INSERT IGNORE INTO mask_pictures (id, shootId, assetId, name, width, height, isFound, createdAt)
   SELECT id, shootId, assetId, name, width, height, isFound, createdAt FROM photographs WHERE isMask`,
  `UPDATE jobs j JOIN photographs p ON p.id = j.photographId SET j.maskPictureId = p.id, j.photographId = NULL WHERE p.isMask`,
  'DELETE FROM photographs WHERE isMask',
  'ALTER TABLE photographs DROP COLUMN isMask, DROP COLUMN isFound',
];

export async function up(q: QueryInterface): Promise<void> {
  for (const statement of tables) await q.sequelize.query(statement);
  const flags = await q.sequelize.query("SHOW COLUMNS FROM photographs LIKE 'isMask'", { type: QueryTypes.SELECT });
  if (flags.length > 0) for (const statement of moves) await q.sequelize.query(statement);
}

export async function down(): Promise<void> {
  throw new Error('Masks that are no photographs cannot become photographs again.');
}
