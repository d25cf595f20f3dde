import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { writeFile } from 'node:fs/promises';
import sharp from 'sharp';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import {
  connect,
  createShoot,
  endJob,
  findPhotograph,
  listHandOvers,
  levelFile,
  listShoots,
  migrate,
  queueHandOver,
  readPreview,
  readSetting,
  readShoot,
  removeShoot,
  renameShoot,
  setPhotographState,
  storePreview,
  takeJob,
  wantPreviews,
  writeSetting,
  Job,
  type Database,
} from '@umbo/data';
import { add, cache, key } from './helper';
import { QueryTypes, type Transaction } from 'sequelize';

const folder = inject('folder');
let db: Database;
let colour = 0;

beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
});

async function addDot(shootId: number, name: string): Promise<number> {
  const path = join(folder, name);
  await writeFile(
    path,
    await sharp({ create: { width: 9, height: 7, channels: 3, background: `rgb(${++colour}, 90, 120)` } })
      .png()
      .toBuffer(),
  );
  return (await add(db, shootId, name, path)).id;
}
const rows = async (table: string): Promise<number> =>
  (await db.query<{ n: number }>(`SELECT COUNT(*) n FROM ${table}`, { type: QueryTypes.SELECT }))[0]!.n;

describe('shoots', () => {
  it('list their photographs, covers and states; names change', async () => {
    const { id } = await createShoot(db, key(), 'Ümlaut & “quotes”, 漢字 🎞');
    const photographs = await Promise.all(['a.png', 'b.png', 'c.png', 'd.png', 'e.png'].map((name) => addDot(id, name)));
    await setPhotographState(photographs[0]!, 'done');
    await setPhotographState(photographs[1]!, 'in work');
    const summary = (await listShoots(db)).find((shoot) => shoot.id === id)!;
    expect(summary).toMatchObject({ name: 'Ümlaut & “quotes”, 漢字 🎞', photographs: 5, done: 1, inWork: 1 });
    expect(summary.cover).toHaveLength(4);
    await renameShoot(id, 'Plain');
    const shoot = await readShoot(db, id);
    expect(shoot.name).toBe('Plain');
    expect(shoot.photographs.map((p) => [p.width, p.height, p.bits, p.revision])).toEqual(Array(5).fill([9, 7, 8, 1]));
    expect(new Set(shoot.photographs.map((p) => p.state))).toEqual(new Set(['untouched', 'in work', 'done']));
  });

  it('take everything with them when they are removed', async () => {
    const before = await Promise.all(['photographs', 'documents', 'assets', 'asset_chunks', 'jobs'].map(rows));
    const { id } = await createShoot(db, key(), 'Short-lived');
    const photograph = await addDot(id, 'short-lived.png');
    await queueHandOver(db, key(), photograph, { fileName: 'x.png', format: 'png', bits: 8, space: 'srgb', quality: 90 });
    expect((await listHandOvers(db)).some((job) => job.photographId === photograph)).toBe(true);
    const { sha256 } = (await readShoot(db, id)).photographs[0]!;
    expect(existsSync(levelFile(cache(), sha256, 0))).toBe(true);
    await removeShoot(db, cache(), id);
    expect(existsSync(levelFile(cache(), sha256, 0))).toBe(false);
    expect(await Promise.all(['photographs', 'documents', 'assets', 'asset_chunks', 'jobs'].map(rows))).toEqual(before);
    await expect(findPhotograph(photograph)).rejects.toThrow(/does not exist/);
    await expect(readShoot(db, id)).rejects.toThrow(/does not exist/);
    await expect(renameShoot(id, 'x')).rejects.toThrow(/does not exist/);
  });
});

describe('previews', () => {
  it('are asked for once, and an older one never takes the place of a newer', async () => {
    const photograph = await addDot((await createShoot(db, key(), 'Previews')).id, 'preview.png');
    await Job.destroy({ where: {} });
    const wanted = [{ id: photograph, revision: 1 }];
    expect(await wantPreviews(db, [...wanted, { id: 4_000_000, revision: 1 }])).toEqual([]);
    await wantPreviews(db, wanted);
    expect(await Job.count({ where: { kind: 'preview' } })).toBe(1);
    const job = (await takeJob(db, 'a', ['preview']))!;
    expect(job.photographId).toBe(photograph);
    const store = async (transaction: Transaction): Promise<null> => {
      await storePreview(db, photograph, { revision: 1, data: Buffer.from('first') }, transaction);
      return null;
    };
    expect(await endJob(db, job.id, 'a', { state: 'done', store })).toBe(true);
    expect(await Job.count({ where: { kind: 'preview' } })).toBe(0);
    expect(await wantPreviews(db, wanted)).toEqual([photograph]);
    // One that nobody asks for again is not made.
    await wantPreviews(db, [{ id: photograph, revision: 2 }]);
    await Job.update({ createdAt: new Date(Date.now() - 60_000) }, { where: { kind: 'preview' } });
    expect(await takeJob(db, 'a', ['preview'])).toBeNull();
    expect(await Job.count({ where: { kind: 'preview' } })).toBe(0);
    await storePreview(db, photograph, { revision: 5, data: Buffer.from('new') });
    await storePreview(db, photograph, { revision: 3, data: Buffer.from('old') });
    expect((await readPreview(db, photograph))!.data.toString()).toBe('new');
    await storePreview(db, photograph, { revision: 6, data: Buffer.from('newer') });
    expect(await readPreview(db, photograph)).toMatchObject({ revision: 6 });
  });
});

it('settings are written over, and migrations run once', async () => {
  expect(await readSetting(db, 'test')).toBeNull();
  await writeSetting(db, 'test', 'one');
  await writeSetting(db, 'test', 'two');
  expect(await readSetting(db, 'test')).toBe('two');
  expect(await migrate(db)).toEqual([]);
});
