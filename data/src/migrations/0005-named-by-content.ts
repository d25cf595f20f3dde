import { upgradeDocument, upgradePatches, type HashOf, type Patch } from '@umbo/core/document';
import { QueryTypes, type QueryInterface } from 'sequelize';

export const name = '0005-named-by-content';

/** Where whole documents are kept: the table, its key, and the column. */
const DOCUMENTS = [
  ['documents', 'photographId', 'body'],
  ['versions', 'id', 'body'],
  ['masks', 'id', 'body'],
  ['jobs', 'id', 'document'],
] as const;

/** Edits name other photographs by the content of their files; jobs say which engine they were made for. */
export async function up(q: QueryInterface): Promise<void> {
  const select = <T extends object>(sql: string, bind: unknown[] = []): Promise<T[]> =>
    q.sequelize.query<T>(sql, { bind, type: QueryTypes.SELECT });
  await q.sequelize.query('ALTER TABLE jobs ADD COLUMN IF NOT EXISTS engine INT UNSIGNED NOT NULL DEFAULT 1');
  const files = await select<{ id: number; sha256: string }>('SELECT p.id, a.sha256 FROM photographs p JOIN assets a ON a.id = p.assetId');
  const hashes = new Map(files.map(({ id, sha256 }) => [id, sha256]));
  const hashOf: HashOf = (id) => hashes.get(id);

  // One at a time: each may be megabytes. What is of the new version already stays as it is.
  for (const [table, key, column] of DOCUMENTS)
    for (const { id } of await select<{ id: number }>(`SELECT ${key} AS id FROM ${table}`)) {
      const [row] = await select<{ text: string }>(`SELECT ${column} AS text FROM ${table} WHERE ${key} = $1`, [id]);
      const value: unknown = JSON.parse(row!.text);
      const upgraded = upgradeDocument(value, hashOf);
      if (upgraded !== value)
        await q.sequelize.query(`UPDATE ${table} SET ${column} = $2 WHERE ${key} = $1`, { bind: [id, JSON.stringify(upgraded)] });
    }
  const entries = await select<{ photographId: number; seq: number }>(
    "SELECT photographId, seq FROM history WHERE patches LIKE '%photographId%' OR inverse LIKE '%photographId%'",
  );
  for (const { photographId, seq } of entries) {
    const [row] = await select<{ patches: string; inverse: string }>(
      'SELECT patches, inverse FROM history WHERE photographId = $1 AND seq = $2',
      [photographId, seq],
    );
    const [patches, inverse] = [row!.patches, row!.inverse].map((text) =>
      JSON.stringify(upgradePatches(JSON.parse(text) as Patch[], hashOf)),
    );
    await q.sequelize.query('UPDATE history SET patches = $3, inverse = $4 WHERE photographId = $1 AND seq = $2', {
      bind: [photographId, seq, patches, inverse],
    });
  }
}

export async function down(): Promise<void> {
  throw new Error('Edits that name photographs by their content cannot go back to numbers.');
}
