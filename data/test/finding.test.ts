/** Finding of regions that is asked for on the server: once for each photograph, in order, stopped and told. */
import { join } from 'node:path';
import type { Transaction } from 'sequelize';
import sharp from 'sharp';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import {
  connect,
  createShoot,
  endJob,
  followEvents,
  forgetImport,
  importedPicture,
  keepFound,
  movePhotographs,
  queueFound,
  readForImport,
  storeImport,
  readShoot,
  listFinding,
  migrate,
  queueFinding,
  changePhotographs,
  emptyBin,
  renewJob,
  stopFinding,
  takeJob,
  type Database,
  type ImportOptions,
  type ReadFile,
} from '@umbo/data';
import { addPlain, cache, key } from './helper';

let db: Database;
beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
});

async function photographsIn(shootId: number, ...names: string[]): Promise<number[]> {
  const ids: number[] = [];
  for (const name of names) ids.push(await addPlain(db, shootId, name));
  return ids;
}
/** Jobs of other tests do not wait in between: what is taken here was asked for here. */
const take = async (holder: string) => (await takeJob(db, holder, { kind: 'find' }))!;

describe('finding on the server', () => {
  it('is asked for once for each photograph, by whoever asks, and done in the order of their names', async () => {
    const { id } = await createShoot(db, key(), 'Found');
    const [b, a] = (await photographsIn(id, 'found-b.png', 'found-a.png')) as [number, number];
    const first = key();
    await queueFinding(db, first, id, [b, a]);
    await queueFinding(db, first, id, [b, a]); // the same request, sent again
    await queueFinding(db, key(), id, [a]); // another window asks for one that waits
    expect((await listFinding(db, id)).map(({ photographId, state }) => [photographId, state])).toEqual([
      [a, 'queued'],
      [b, 'queued'],
    ]);
    const job = await take('one');
    expect([job.kind, job.photographId]).toEqual(['find', a]);
    await queueFinding(db, key(), id, [a]); // nor for one that is being found
    expect((await take('two')).photographId).toBe(b);
    expect(await takeJob(db, 'three', { kind: 'find' })).toBeNull();
    expect(await renewJob(db, job.id, 'one', 0.5)).toBe(true);
    expect((await listFinding(db, id))[0]).toMatchObject({ photograph: 'found-a.png', state: 'running', progress: 0.5 });
    await endJob(db, job.id, 'one', { state: 'done', store: async () => null });
    expect((await listFinding(db, id)).map(({ photographId }) => photographId)).toEqual([b]);
    await queueFinding(db, key(), id, [a]); // found, it can be found again
    expect(await listFinding(db, id)).toHaveLength(2);
    await stopFinding(db, id);
  });

  it('keeps what it found with the shoot that the photograph is in by then, once', async () => {
    const [from, to] = [(await createShoot(db, key(), 'From')).id, (await createShoot(db, key(), 'To')).id];
    const [photograph] = (await photographsIn(from, 'moves.png')) as [number];
    const path = join(inject('folder'), 'found-mask.png');
    await sharp({ create: { width: 9, height: 6, channels: 3, background: '#123' } }).png().toFile(path); // prettier-ignore
    const file = await readForImport(db, cache(), path, true);
    await movePhotographs(db, [photograph], to);
    const under = key();
    const kept = await keepFound(db, under, photograph, [file], ['Skin.png']);
    expect(await keepFound(db, under, photograph, [file], ['Skin.png'])).toEqual(kept);
    expect([(await readShoot(db, from)).masks, (await readShoot(db, to)).masks]).toMatchObject([[], [{ id: kept[0], sha256: file.sha256, isFound: true }]]); // prettier-ignore
  });

  it('of a browser is stored in one request, and what is there is not made again; an import that was called off does not come', async () => {
    const { id: shootId } = await createShoot(db, key(), 'Stored');
    const [photograph] = (await photographsIn(shootId, 'stored.png')) as [number];
    const files: { name: string; path: string }[] = [];
    for (const [i, background] of ['#321', '#432'].entries()) {
      const path = join(inject('folder'), `stored-${i}.png`);
      await sharp({ create: { width: 9, height: 6, channels: 3, background } }).png().toFile(path); // prettier-ignore
      files.push({ name: `${i}.png`, path });
    }
    const imports = await queueFound(db, photograph, files);
    const job = (await takeJob(db, 'p', { kind: 'import' }))!;
    const options = job.options as unknown as ImportOptions;
    const store = (file: ReadFile) => (transaction: Transaction) => storeImport(db, options, file, transaction);
    const read = await readForImport(db, cache(), files[0]!.path, true);
    expect(await endJob(db, job.id, 'p', { state: 'done', store: store(read) })).toBe(true);
    expect((await importedPicture(db, imports[0]!.id))!.sha256).toBe(imports[0]!.sha256);
    const other = (await takeJob(db, 'p', { kind: 'import' }))!;
    await forgetImport(db, other.id);
    expect(await endJob(db, other.id, 'p', { state: 'done', store: store(await readForImport(db, cache(), files[1]!.path, true)) })).toBe(
      false,
    );
    expect((await readShoot(db, shootId)).masks.map(({ name }) => name)).toEqual(['0.png']);
    const [again] = await queueFound(db, photograph, files.slice(0, 1));
    expect((await importedPicture(db, again!.id))!.sha256).toBe(imports[0]!.sha256);
    expect((await readShoot(db, shootId)).masks).toHaveLength(1);
  });

  it('is stopped, also while it runs; what failed is said until it is put away or asked for again; watchers hear of it', async () => {
    const { id } = await createShoot(db, key(), 'Stopped');
    const [one, two] = (await photographsIn(id, 'stopped-1.png', 'stopped-2.png')) as [number, number];
    const heard = followEvents(db);
    await heard();
    await queueFinding(db, key(), id, [one, two]);
    const running = await take('one');
    await stopFinding(db, id);
    expect(await listFinding(db, id)).toEqual([]);
    // Whoever has it hears so, and cannot end what is no longer theirs.
    expect(await renewJob(db, running.id, 'one', 0.5)).toBe(false);
    expect(await endJob(db, running.id, 'one', { state: 'done', store: async () => null })).toBe(false);
    await queueFinding(db, key(), id, [one]);
    const failing = await take('one');
    await endJob(db, failing.id, 'one', { state: 'failed', error: 'No models' });
    expect(await listFinding(db, id)).toMatchObject([{ photographId: one, state: 'failed', error: 'No models' }]);
    await queueFinding(db, key(), id, [one]);
    expect(await listFinding(db, id)).toMatchObject([{ state: 'queued', error: null }]);
    const told = (await heard()).filter(({ kind, subject }) => kind === 'find' && subject === id);
    expect(told.length).toBeGreaterThanOrEqual(5); // asked for, taken, stopped, taken, failed
    await changePhotographs(db, [one], { removed: true });
    await emptyBin(db, cache(), id);
    expect(await listFinding(db, id)).toEqual([]);
  });

  it('is refused for what is not in the shoot, and then nothing is asked for', async () => {
    const { id } = await createShoot(db, key(), 'Refused');
    const other = await createShoot(db, key(), 'Other');
    const [mine] = (await photographsIn(id, 'refused-1.png')) as [number];
    const [elsewhere] = (await photographsIn(other.id, 'refused-2.png')) as [number];
    await expect(queueFinding(db, key(), id, [mine, elsewhere])).rejects.toThrow('not in this shoot');
    await expect(queueFinding(db, key(), 999_999, [mine])).rejects.toThrow('does not exist');
    expect(await listFinding(db, id)).toEqual([]);
  });
});
