import type { QueryInterface } from 'sequelize';

export const name = '0015-profiles';

const statements = [
  `CREATE TABLE IF NOT EXISTS profiles (
    id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    shootId INT UNSIGNED NOT NULL,
    name VARCHAR(120) NOT NULL,
    colours VARCHAR(4) CHARACTER SET ascii NOT NULL,
    sha256 CHAR(64) CHARACTER SET ascii NOT NULL,
    icc MEDIUMBLOB NOT NULL,
    UNIQUE (shootId, sha256),
    FOREIGN KEY (shootId) REFERENCES shoots (id) ON DELETE CASCADE)
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`,
];

export async function up(q: QueryInterface): Promise<void> {
  for (const statement of statements) await q.sequelize.query(statement);
}

export async function down(q: QueryInterface): Promise<void> {
  await q.dropTable('profiles');
}
