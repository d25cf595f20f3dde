/** Migrations that are interrupted at any statement, and schemas of another time. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { QueryTypes, Sequelize } from 'sequelize';
import mysql2 from 'mysql2';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';
import { mariadb } from '../../tools/mariadb.mjs';
import { emptyDocument, travel } from '@umbo/core/document';
import * as askedEdits from '../src/migrations/0017-asked-edits.ts';
import {
  checkDocument,
  connect,
  listMasks,
  listVersions,
  migrate,
  readAskedEdit,
  readDocument,
  readEntries,
  readMask,
  readSetting,
  readVersion,
  takeJob,
  type Database,
} from '@umbo/data';

const folder = mkdtempSync(join(tmpdir(), 'umbo-migrate-'));
const server = mariadb(folder);
let url: string;
beforeAll(async () => {
  url = await server.start();
});
afterAll(async () => {
  connect(inject('databaseUrl')); // the models go back to the tests' own pool
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});

const open = (): Database => new Sequelize(url, { dialect: 'mysql', dialectModule: mysql2, logging: false });

/** With nothing in it. */
async function fresh(): Promise<Database> {
  const db = open();
  const [tables] = (await db.query('SHOW TABLES')) as [Record<string, string>[], unknown];
  const names = tables.flatMap((row) => Object.values(row));
  if (names.length > 0) await db.query(`SET STATEMENT foreign_key_checks = 0 FOR DROP TABLE ${names.join(', ')}`);
  return db;
}

const schema = async (db: Database): Promise<unknown> => [
  (
    await db.query(
      'SELECT table_name, column_name, column_type, is_nullable FROM information_schema.columns WHERE table_schema = DATABASE() ORDER BY 1, 2',
    )
  )[0],
  (
    await db.query(
      'SELECT table_name, constraint_name, constraint_type FROM information_schema.table_constraints WHERE table_schema = DATABASE() ORDER BY 1, 2',
    )
  )[0],
];

it('a migration that is killed at any statement can be repeated, and comes to the same schema', async () => {
  const whole = await fresh();
  await migrate(whole);
  const expected = await schema(whole);
  await whole.close();
  const db = await fresh();
  const query = db.query.bind(db);
  const ran = async (): Promise<number> =>
    (await query<{ n: number }>('SELECT COUNT(*) n FROM SequelizeMeta', { type: QueryTypes.SELECT }))[0]!.n;
  let [kills, done] = [0, 0];
  // Killed one statement later each time, until it is through; then the next migration is killed after its first.
  for (let limit = 1, isThrough = false; !isThrough; limit++) {
    let statements = 0;
    db.query = ((...args: Parameters<typeof query>) => {
      if (++statements > limit) throw new Error('killed');
      return query(...args);
    }) as typeof db.query;
    isThrough = await migrate(db).then(
      () => true,
      (error: unknown) => {
        if (!String(error).includes('killed')) throw error;
        return false;
      },
    );
    kills += Number(!isThrough);
    const now = limit < 2 ? 0 : await ran();
    if (now > done) [limit, done] = [1, now];
  }
  expect(kills).toBeGreaterThan(100);
  db.query = query as typeof db.query;
  expect(await schema(db)).toEqual(expected);
  expect(await readSetting(db, 'database')).toMatch(/^[0-9a-f-]{36}$/);
  await db.close();
});

it('a schema of a newer Umbo is refused in words, and left alone', async () => {
  const db = await fresh();
  await migrate(db);
  await db.query("INSERT INTO SequelizeMeta (name) VALUES ('0999-later')");
  const before = await schema(db);
  await expect(migrate(db)).rejects.toThrow(/made by a newer Umbo \(0999-later\)/);
  expect(await schema(db)).toEqual(before);
  await db.close();
});

it('masks that were photographs with a flag get a table of their own, with the numbers that they had', async () => {
  const db = await fresh();
  await migrate(db);
  const name = '0018-mask-pictures';
  const before = await schema(db);
  for (const sql of [
    'ALTER TABLE photographs ADD COLUMN isMask BOOLEAN NOT NULL DEFAULT FALSE, ADD COLUMN isFound BOOLEAN NOT NULL DEFAULT FALSE',
    'ALTER TABLE jobs DROP FOREIGN KEY jobs_of_mask_pictures, DROP COLUMN maskPictureId',
    'DROP TABLE mask_pictures',
    `DELETE FROM SequelizeMeta WHERE name = '${name}'`,
    "INSERT INTO shoots (id, name, createdAt) VALUES (1, 'Old', UTC_TIMESTAMP(3))",
    `INSERT INTO assets (id, sha256, bytes, createdAt) VALUES (1, '${'a'.repeat(64)}', 1, UTC_TIMESTAMP(3))`,
    ...[0, 1].map(
      (flag) => `INSERT INTO photographs (id, shootId, assetId, name, width, height, bits, profile, isMask, isFound, createdAt)
        VALUES (${7 + flag}, 1, 1, 'of ${flag}', 40, 30, 8, 'sRGB', ${flag}, ${flag}, '2026-01-02 03:04:05')`,
    ),
    "INSERT INTO documents (photographId, revision, position, body) VALUES (8, 1, 0, '{}')",
    "INSERT INTO jobs (kind, photographId, options, revision, createdAt) VALUES ('import', 8, '{}', 0, UTC_TIMESTAMP(3))",
  ])
    await db.query(sql);
  expect(await migrate(db)).toEqual([name]);
  expect(await schema(db)).toEqual(before);
  const all = (sql: string): Promise<object[]> => db.query(sql, { type: QueryTypes.SELECT });
  expect(await all('SELECT id, name FROM photographs')).toEqual([{ id: 7, name: 'of 0' }]);
  const mask = { id: 8, shootId: 1, assetId: 1, name: 'of 1', width: 40, height: 30, isFound: 1 };
  expect(await all('SELECT * FROM mask_pictures')).toMatchObject([mask]);
  expect(await all('SELECT photographId, maskPictureId FROM jobs')).toEqual([{ photographId: null, maskPictureId: 8 }]);
  expect(await all('SELECT * FROM documents')).toEqual([]);
  await db.close();
});

it('edits that name other photographs by numbers name them by the content of their files, in their history, versions, masks and jobs too', async () => {
  const db = await fresh();
  await migrate(db);
  await askedEdits.down(db.getQueryInterface());
  const insert = (sql: string, ...bind: unknown[]): Promise<unknown> => db.query(sql, { bind });
  await insert("INSERT INTO shoots (id, name, createdAt) VALUES (1, 'Old', UTC_TIMESTAMP(3))");
  for (const [id, letter] of [
    [1, 'a'],
    [2, 'b'],
  ] as const) {
    await insert('INSERT INTO assets (id, sha256, bytes, createdAt) VALUES ($1, $2, 1, UTC_TIMESTAMP(3))', id, letter.repeat(64));
    await insert(
      `INSERT INTO photographs (id, shootId, assetId, name, width, height, bits, profile, state, createdAt)
       VALUES ($1, 1, $1, $2, 40, 30, 8, 'sRGB', 'in work', UTC_TIMESTAMP(3))`,
      id,
      letter,
    );
  }
  const where = (parts: object[]) => ({ parts, refine: [], strength: 1, invert: false });
  const frame = (photographId: number) => ({ photographId, x: 0, y: 0, rotate: 0, scale: 100 });
  const part = { id: 'p', kind: 'picture', on: true, invert: false, combine: 'add', photographId: 99 };
  const layer = (settings: object, parts: object[] = []) => ({
    id: 'l',
    name: 'Other',
    on: true,
    where: where(parts),
    what: { kind: 'frame', settings },
    how: { mode: 'normal', opacity: 1 },
  });
  const old = JSON.stringify({
    format: 'umbo-edit',
    version: 1,
    workingSpace: 'srgb',
    photo: { width: 40, height: 30 },
    layers: [layer(frame(2), [part])],
  });
  await insert('INSERT INTO documents (photographId, revision, position, body) VALUES (1, 3, 2, $1)', old);
  await insert("INSERT INTO versions (photographId, name, body, createdAt) VALUES (1, 'First', $1, UTC_TIMESTAMP(3))", old);
  await insert("INSERT INTO masks (shootId, name, body) VALUES (1, 'Mask', $1)", old);
  await insert(
    `INSERT INTO jobs (kind, photographId, options, document, revision, createdAt) VALUES ('hand-over', 1, '{}', $1, 3, UTC_TIMESTAMP(3))`,
    old,
  );
  const settings = ['layers', 0, 'what', 'settings', 'photographId'];
  const entries: [object[], object[]][] = [
    [[{ op: 'add', path: ['layers', 0], value: layer(frame(0), [part]) }], [{ op: 'remove', path: ['layers', 0] }]],
    [[{ op: 'replace', path: settings, value: 2 }], [{ op: 'replace', path: settings, value: 0 }]],
  ];
  for (const [i, [patches, inverse]] of entries.entries())
    await insert(
      `INSERT INTO history (photographId, seq, entryId, label, patches, inverse, createdAt) VALUES (1, $1, $2, 'x', $3, $4, UTC_TIMESTAMP(3))`,
      i + 1,
      `e${i}`,
      JSON.stringify(patches),
      JSON.stringify(inverse),
    );
  const again = ['0005-named-by-content', askedEdits.name];
  await db.query('DELETE FROM SequelizeMeta WHERE name IN (:again)', { replacements: { again } });
  expect(await migrate(db)).toEqual(again);

  connect(url); // what reads below is bound to this database
  const { document } = await readDocument(db, 1);
  expect(checkDocument(document).layers[0]!.what).toMatchObject({ settings: { photograph: 'b'.repeat(64) } });
  expect(document.layers[0]!.where.parts[0]).toMatchObject({ photograph: '' }); // one that is gone
  const history = await readEntries(db, 1, 0, 2, 3);
  const before = travel(document, history, 'back');
  expect(before).toEqual(emptyDocument(document.photo));
  expect(travel(before, history, 'forth')).toEqual(document);
  const [version] = await listVersions(1);
  expect((await readVersion(version!.id)).document).toEqual(document);
  const [mask] = await listMasks(1);
  expect((await readMask(mask!.id)).document).toEqual(document);
  const job = (await takeJob(db, 'a', { kind: 'hand-over' }))!;
  expect(await readAskedEdit(db, job.id, job.options)).toEqual(document);
  await db.close();
});
