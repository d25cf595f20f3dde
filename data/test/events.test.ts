/** What watchers hear of what happens in the database. */
import { afterAll, beforeAll, beforeEach, expect, inject, it } from 'vitest';
import { connect, createShoot, followEvents, migrate, Shoot, type Database } from '@umbo/data';
import { tell } from '../src/events.ts';
import { key } from './helper.ts';

let db: Database;
beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
});
beforeEach(() => db.query('DELETE FROM events'));
afterAll(() => Shoot.destroy({ where: { name: 'Events' } }));

const told = (subject: number): Promise<void> => db.transaction((transaction) => tell(db, 'shoot', [subject], transaction));

it('each hears once, in order, what happens from when it began to listen', async () => {
  await told(1);
  const follow = followEvents(db);
  expect(await follow()).toEqual([]);
  await told(2);
  await told(3);
  expect((await follow()).map(({ subject }) => subject)).toEqual([2, 3]);
  expect(await follow()).toEqual([]);
  const late = followEvents(db);
  expect(await late()).toEqual([]);
  await told(4);
  expect([(await follow())[0]!.subject, (await late())[0]!.subject]).toEqual([4, 4]);
});

it('also of a transaction that began before others and ended after them; nothing of one that failed', async () => {
  const follow = followEvents(db);
  await follow();
  const slow = await db.transaction();
  await tell(db, 'document', [10], slow, 7);
  await told(11);
  expect((await follow()).map(({ subject }) => subject)).toEqual([11]);
  await expect(
    db.transaction(async (transaction) => {
      await tell(db, 'document', [12], transaction);
      throw new Error('no');
    }),
  ).rejects.toThrow();
  await slow.commit();
  expect(await follow()).toEqual([{ kind: 'document', subject: 10, revision: 7 }]);
  // What is long over does not have to be looked through again, and is not heard twice.
  await db.query('UPDATE events SET createdAt = createdAt - INTERVAL 1 MINUTE');
  expect(await follow()).toEqual([]);
  const { id } = await createShoot(db, key(), 'Events');
  await told(id);
  expect((await follow()).map(({ subject }) => subject)).toEqual([id]);
});
