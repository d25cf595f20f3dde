import type { QueryInterface } from 'sequelize';

export const name = '0006-events';

export async function up(q: QueryInterface): Promise<void> {
  await q.sequelize.query(
    `CREATE TABLE IF NOT EXISTS events (
      id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
      kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
      subject INT UNSIGNED NOT NULL,
      revision INT UNSIGNED NOT NULL,
      createdAt DATETIME(3) NOT NULL,
      KEY byAge (createdAt))
      ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci`,
  );
}

export async function down(q: QueryInterface): Promise<void> {
  await q.dropTable('events');
}
