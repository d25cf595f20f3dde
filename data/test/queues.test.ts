/** Who waits for what: turns, places in line, time, and what is told of it. */
import { beforeAll, beforeEach, describe, expect, inject, it } from 'vitest';
import {
  cancelBatch,
  cancelHandOver,
  connect,
  createShoot,
  endJob,
  followEvents,
  Job,
  listHandOvers,
  migrate,
  queueBatch,
  queueHandOver,
  removeBatch,
  sweepAskedEdits,
  takeJob,
  waitsOf,
  type Database,
} from '@umbo/data';
import { QueryTypes } from 'sequelize';
import { placesInLine, queueName, type Queue } from '../src/fairness.ts';
import { addPlain, key } from './helper';

let db: Database;
beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
});
beforeEach(async () => {
  await Job.destroy({ where: {} });
  for (const table of ['turns', 'durations']) await db.query(`DELETE FROM ${table}`);
});

const options = { format: 'jpeg', bits: 8, space: 'srgb', quality: 90 } as const;
const HAND_OVER = { kind: 'hand-over' } as const;

async function shootOf(photographs: number): Promise<number[]> {
  const { id } = await createShoot(db, key(), 'Turns');
  const ids: number[] = [];
  for (let i = 0; i < photographs; i++) ids.push(await addPlain(db, id, `${i}.png`));
  return ids;
}
const single = (photograph: number): Promise<number[]> => queueHandOver(db, key(), photograph, { ...options, fileName: 'one.jpg' });
const batch = (photographs: readonly number[]): Promise<{ id: string }> =>
  queueBatch(db, key(), { photographs, versions: 'now', colourways: false, pattern: '{name} {number}', options });

/** Takes and ends the next job. */
async function next(): Promise<{ photographId: number; batchId: string | null } | null> {
  const job = await takeJob(db, 'p', HAND_OVER);
  if (job) await endJob(db, job.id, 'p', { state: 'done', store: async () => ({}) });
  return job;
}

describe('hand-overs', () => {
  it('of many go on while single ones keep coming, and single ones wait for one of the many at most', async () => {
    const [one, ...others] = (await shootOf(6)) as [number, ...number[]];
    const { id } = await batch(others);
    const order: string[] = [];
    for (let i = 0; i < 10; i++) {
      await single(one);
      order.push((await next())!.batchId === id ? 'many' : 'one');
    }
    expect(order).toEqual(['one', 'many', 'one', 'many', 'one', 'many', 'one', 'many', 'one', 'many']);
  });

  it('of three shoots, 200 together: none waits more than three times its share', async () => {
    const shoots = [await shootOf(1), await shootOf(5), await shootOf(3)];
    const [small, large, middle] = shoots as [number[], number[], number[]];
    // A hundred and fifty files of one shoot came first, then forty of another, then ten single ones.
    for (let i = 0; i < 30; i++) await batch(large);
    for (let i = 0; i < 13; i++) await batch(middle);
    for (let i = 0; i < 11; i++) await single(small[0]!);
    const served: number[] = [];
    for (let job = await next(); job; job = await next()) served.push(shoots.findIndex((ids) => ids.includes(job.photographId)));
    expect(served).toHaveLength(200);
    for (const [shoot, asked] of [11, 150, 39].entries()) {
      const last = served.lastIndexOf(shoot) + 1;
      // Its share of a machine that three use: three places for each of its own, as long as the others have any left.
      expect(last).toBeLessThanOrEqual(Math.min(200, 3 * asked));
    }
  });

  it('say their place in line, which is where they are taken, and how long that takes by what was measured', async () => {
    const [a, b] = [(await shootOf(3)) as [number, number, number], (await shootOf(1)) as [number]];
    await batch(a);
    const [last] = (await single(b[0])) as [number];
    const waits = await waitsOf(db, 'hand-over');
    expect([...waits.values()].map(({ seconds }) => seconds)).toEqual([null, null, null, null]);
    await db.query("INSERT INTO durations (kind, seconds) VALUES ('hand-over', 8), ('hand-over', 12)");
    const [shown] = await listHandOvers(db, { id: last });
    expect(shown!.waits).toEqual({ place: waits.get(last)!.place, seconds: 10 * waits.get(last)!.place });
    const foreseen = [...(await waitsOf(db, 'hand-over'))].sort(([, x], [, y]) => x.place - y.place).map(([id]) => id);
    const taken: number[] = [];
    for (let job = await takeJob(db, 'p', HAND_OVER); job; job = await takeJob(db, 'p', HAND_OVER)) {
      taken.push(job.id);
      await endJob(db, job.id, 'p', { state: 'done', store: async () => ({}) });
    }
    expect(taken).toEqual(foreseen);
  });

  it('foresees five thousand places without counting each through all others', () => {
    const queues: Queue[] = Array.from({ length: 50 }, (_, i) => ({ shoot: String(i % 7), batch: `b${i}`, waiting: 100, first: i * 100 }));
    const ids = new Map(queues.map((queue) => [queueName(queue), Array.from({ length: 100 }, (_, i) => queue.first + i)]));
    const places = placesInLine(queues, ids, { running: new Map(), last: new Map() });
    expect(new Set(places.values()).size).toBe(5000);
    expect(Math.max(...places.values())).toBe(5000);
  });

  it('that were given up or called off are told', async () => {
    const [photograph] = await shootOf(1);
    const [id] = (await single(photograph!)) as [number];
    const heard = followEvents(db);
    await heard();
    const told = async (): Promise<number[]> => (await heard()).filter(({ kind }) => kind === 'hand-over').map(({ subject }) => subject);
    for (let i = 0; i < 3; i++) {
      await takeJob(db, `dies ${i}`, HAND_OVER);
      await Job.update({ leaseUntil: new Date(0) }, { where: { id } });
    }
    await told();
    expect(await takeJob(db, 'p', HAND_OVER)).toBeNull();
    expect([await told(), (await Job.findByPk(id))!.state]).toEqual([[id], 'failed']);
    const [other] = (await single(photograph!)) as [number];
    await cancelHandOver(db, other);
    expect(await told()).toContain(other);
  });

  it('of heavy edits keep each edit once, however many files are of it, and let go of it with the last', async () => {
    const photographs = await shootOf(12);
    const points = Array.from({ length: 60_000 }, (_, i) => (i % 3 === 2 ? 1 : Math.sin(i) * 1000));
    const body = JSON.stringify({ photo: { width: 9, height: 6 }, layers: [], padding: Array.from({ length: 2 }, () => points) });
    await db.query('UPDATE documents SET body = :body WHERE photographId IN (:photographs)', { replacements: { body, photographs } });
    const kept = async (): Promise<number> =>
      (
        await db.query<{ n: number }>('SELECT COUNT(*) n FROM asked_edits WHERE body = :body', {
          replacements: { body },
          type: QueryTypes.SELECT,
        })
      )[0]!.n;
    const [{ id }, other] = [await batch(photographs), await batch(photographs)];
    expect(await listHandOvers(db, { batchId: id })).toHaveLength(12);
    for (const [batchId, left] of [
      [id, 1],
      [other.id, 0],
    ] as const) {
      await cancelBatch(db, batchId);
      await removeBatch(db, batchId);
      await sweepAskedEdits(db);
      expect(await kept()).toBe(left);
    }
  });
});
