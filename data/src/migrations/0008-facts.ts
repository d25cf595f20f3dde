import type { QueryInterface } from 'sequelize';

export const name = '0008-facts';

const statements = [
  `ALTER TABLE photographs
    ADD COLUMN IF NOT EXISTS takenAt DATETIME NULL,
    ADD COLUMN IF NOT EXISTS shotWith VARCHAR(500) NOT NULL DEFAULT '{}',
    ADD COLUMN IF NOT EXISTS removedAt DATETIME(3) NULL`,
  'ALTER TABLE previews ADD COLUMN IF NOT EXISTS light FLOAT NULL',
  `CREATE TABLE IF NOT EXISTS metadata (
    assetId INT UNSIGNED NOT NULL PRIMARY KEY,
    exif MEDIUMBLOB NULL,
    xmp MEDIUMBLOB NULL,
    iptc MEDIUMBLOB NULL,
    CONSTRAINT metadataOfAsset FOREIGN KEY (assetId) REFERENCES assets (id) ON DELETE CASCADE)
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`,
];

export async function up(q: QueryInterface): Promise<void> {
  for (const statement of statements) await q.sequelize.query(statement);
}

export async function down(q: QueryInterface): Promise<void> {
  await q.dropTable('metadata');
  await q.removeColumn('previews', 'light');
  for (const column of ['takenAt', 'shotWith', 'removedAt']) await q.removeColumn('photographs', column);
}
