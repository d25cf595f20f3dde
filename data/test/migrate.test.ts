/** Migrations that are interrupted at any statement, and schemas of another time. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Sequelize } from 'sequelize';
import mysql2 from 'mysql2';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';
import { mariadb } from '../../tools/mariadb.mjs';
import { connect, migrate, readSetting, type Database } from '@umbo/data';

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

const schema = async (db: Database): Promise<unknown> =>
  (
    await db.query(
      'SELECT table_name, column_name, column_type, is_nullable FROM information_schema.columns WHERE table_schema = DATABASE() ORDER BY 1, 2',
    )
  )[0];

it('a migration that is killed at any statement can be repeated, and comes to the same schema', async () => {
  const whole = await fresh();
  let statements = 0;
  const counting = (db: Database, limit: number): void => {
    const query = db.query.bind(db);
    statements = 0;
    db.query = ((...args: Parameters<typeof query>) => {
      if (++statements > limit) throw new Error('killed');
      return query(...args);
    }) as typeof db.query;
  };
  counting(whole, Infinity);
  await migrate(whole);
  const all = statements;
  const expected = await schema(whole);
  await whole.close();
  expect(all).toBeGreaterThan(25);
  for (let limit = 1; limit < all; limit++) {
    const db = await fresh();
    counting(db, limit);
    await expect(migrate(db), `killed after ${limit} statements`).rejects.toThrow();
    await db.close();
    const again = open();
    await migrate(again);
    expect(await schema(again)).toEqual(expected);
    expect(await readSetting(again, 'database')).toMatch(/^[0-9a-f-]{36}$/);
    await again.close();
  }
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
