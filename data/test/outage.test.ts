/** Connections that break at any moment: what was asked for happens once, or not at all. */
import { createServer, connect as connectTo, type Server, type Socket } from 'node:net';
import { QueryTypes } from 'sequelize';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { connect, createShoot, databaseIsFull, inTransaction, listShoots, migrate, once, Shoot, type Database } from '@umbo/data';
import { key } from './helper';

/** Between client and server, it breaks connections when it is told to: `what` sees every packet of a client. */
class Breaker {
  readonly server: Server;
  readonly #sockets = new Set<Socket>();
  /** Whether the connection breaks before the packet reaches the server, or before its answer comes back. */
  what: (text: string) => 'before' | 'after' | null = () => null;
  broken = 0;

  constructor(port: number) {
    this.server = createServer((client) => {
      const upstream = connectTo(port, '127.0.0.1');
      for (const socket of [client, upstream]) {
        this.#sockets.add(socket);
        socket.on('error', () => undefined).on('close', () => socket.destroy());
      }
      let deaf = false;
      client.on('data', (data) => {
        const when = this.what(data.toString('latin1'));
        if (when) this.broken++;
        if (when === 'before') return void [client, upstream].forEach((socket) => socket.destroy());
        if (when === 'after') {
          deaf = true;
          upstream.once('data', () => client.destroy());
        }
        upstream.write(data);
      });
      upstream.on('data', (data) => deaf || client.write(data));
      client.on('close', () => upstream.end());
      upstream.on('close', () => client.destroy());
    });
  }
  close(): void {
    for (const socket of this.#sockets) socket.destroy();
    this.server.close();
  }
}

let breaker: Breaker;
let db: Database;
let direct: Database;

beforeAll(async () => {
  const url = new URL(inject('databaseUrl'));
  direct = connect(url.href);
  await migrate(direct);
  breaker = new Breaker(Number(url.port));
  await new Promise<void>((done) => breaker.server.listen(0, '127.0.0.1', done));
  url.port = String((breaker.server.address() as { port: number }).port);
  db = connect(url.href);
});
afterAll(async () => {
  connect(inject('databaseUrl')); // the models go back to the tests' own pool
  await db.close().catch(() => undefined);
  breaker.close();
});

const named = async (name: string): Promise<number> => (await listShoots(direct)).filter((shoot) => shoot.name === name).length;
/** Breaks once, at the first packet that says this. */
const breakAt = (words: RegExp, when: 'before' | 'after'): void => {
  let done = false;
  breaker.what = (text) => (done || !words.test(text) ? null : ((done = true), when));
};

describe('a transaction whose connection breaks', () => {
  it.each([
    ['at its beginning', /START TRANSACTION/i, 'before'],
    ['in the middle', /Broken in the middle/, 'after'],
    ['before its COMMIT', /COMMIT/, 'before'],
    ['before the answer to its COMMIT', /COMMIT/, 'after'],
  ] as const)('%s happens once', async (when, words, how) => {
    breakAt(words, how);
    const before = breaker.broken;
    const shoot = await createShoot(db, key(), `Broken ${when}`);
    expect(breaker.broken).toBe(before + 1);
    expect(shoot.id).toBeGreaterThan(0);
    expect(await named(`Broken ${when}`)).toBe(1);
  });

  it('asked for again under its key it is the same one', async () => {
    const own = key();
    const first = await createShoot(db, own, 'Twice');
    expect(await createShoot(db, own, 'Twice')).toEqual(first);
    expect(await named('Twice')).toBe(1);
  });

  it('of two at once under one key, one happens', async () => {
    const own = key();
    const ids = await Promise.all(Array.from({ length: 6 }, () => createShoot(db, own, 'At once')));
    expect(new Set(ids.map(({ id }) => id)).size).toBe(1);
    expect(await named('At once')).toBe(1);
  });

  it('a deadlock and a lock that is waited for in vain are tried again', async () => {
    const [a, b] = [await createShoot(db, key(), 'A'), await createShoot(db, key(), 'B')];
    const swap = (first: number, second: number): Promise<unknown> =>
      inTransaction(db, async (transaction) => {
        await Shoot.update({ name: `${first}` }, { where: { id: first }, transaction });
        await new Promise((done) => setTimeout(done, 150));
        await Shoot.update({ name: `${second}` }, { where: { id: second }, transaction });
      });
    await Promise.all([swap(a.id, b.id), swap(b.id, a.id)]);
    let tries = 0;
    const done = await once(db, key(), async (transaction) => {
      await db.query('SET innodb_lock_wait_timeout = 1', { transaction });
      if (tries++ === 0) {
        const error = Object.assign(new Error('waited'), { original: { code: 'ER_LOCK_WAIT_TIMEOUT' } });
        throw error;
      }
      return tries;
    });
    expect(done).toBe(2);
  });
});

it('what belongs to something that is gone is refused in a sentence', async () => {
  const insert = inTransaction(db, (transaction) =>
    db.query("INSERT INTO palettes (shootId, name) VALUES (4000000, 'x')", { type: QueryTypes.INSERT, transaction }),
  );
  await expect(insert).rejects.toThrow(/does not exist/);
});

it('a disk without room is known as what it is, and nothing is tried in vain', async () => {
  let tries = 0;
  const fill = inTransaction(db, async (transaction) => {
    tries++;
    const run = (sql: string): Promise<unknown> => db.query(sql, { transaction });
    await run('SET max_heap_table_size = 16384');
    await run('CREATE TEMPORARY TABLE small (text CHAR(255)) ENGINE = MEMORY');
    await run("INSERT INTO small SELECT REPEAT('x', 255) FROM seq_1_to_10000");
  });
  expect(databaseIsFull(await fill.catch((error: unknown) => error))).toBe(true);
  expect(tries).toBe(1);
});
