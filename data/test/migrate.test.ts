/** Migrations that are interrupted at any statement, and schemas of another time. */
import { Sequelize } from 'sequelize';
import mysql2 from 'mysql2';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';
import { connect, migrate, readSetting, type Database } from '@umbo/data';

/** Databases that the tests' account may make. */
const url = (name: string): string => inject('databaseUrl').replace(/\/\w+$/, `/${name}`);
const made: string[] = [];

async function fresh(name: string): Promise<Database> {
  made.push(name);
  await connect(inject('databaseUrl')).query(`CREATE OR REPLACE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_520_ci`);
  return new Sequelize(url(name), { dialect: 'mysql', dialectModule: mysql2, logging: false });
}
beforeAll(() => connect(inject('databaseUrl')));
afterAll(async () => {
  for (const name of made) await connect(inject('databaseUrl')).query(`DROP DATABASE ${name}`);
});

const schema = async (db: Database): Promise<unknown> =>
  (await db.query('SELECT table_name, column_name, column_type, is_nullable FROM information_schema.columns WHERE table_schema = DATABASE() ORDER BY 1, 2'))[0];

it('a migration that is killed at any statement can be repeated, and comes to the same schema', async () => {
  const whole = await fresh('umbo_migrate_whole');
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
    const db = await fresh('umbo_migrate_cut');
    counting(db, limit);
    await expect(migrate(db), `killed after ${limit} statements`).rejects.toThrow();
    await db.close();
    const again = new Sequelize(url('umbo_migrate_cut'), { dialect: 'mysql', dialectModule: mysql2, logging: false });
    await migrate(again);
    expect(await schema(again)).toEqual(expected);
    expect(await readSetting(again, 'database')).toMatch(/^[0-9a-f-]{36}$/);
    await again.close();
  }
});

it('a schema of a newer Umbo is refused in words, and left alone', async () => {
  const db = await fresh('umbo_migrate_newer');
  await migrate(db);
  await db.query("INSERT INTO SequelizeMeta (name) VALUES ('0999-later')");
  const before = await schema(db);
  await expect(migrate(db)).rejects.toThrow(/made by a newer Umbo \(0999-later\)/);
  expect(await schema(db)).toEqual(before);
  await db.close();
});
