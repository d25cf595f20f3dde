/** Hand-overs of many photographs: which files there are, what they are called, and in which order they are made. */
import { adjustmentLayer, childrenOf, colourwayLayer, type UmboDocument } from '@umbo/core/document';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import {
  cancelBatch,
  connect,
  createShoot,
  DocumentRow,
  Job,
  keepPreset,
  keepVersion,
  listBatches,
  listHandOvers,
  listPresets,
  migrate,
  namesOfBatch,
  queueBatch,
  queueHandOver,
  readHandOverFile,
  removeBatch,
  removePreset,
  retryBatch,
  takeJob,
  type BatchWish,
  type Database,
} from '@umbo/data';
import { join } from 'node:path';
import sharp from 'sharp';
import { add, key } from './helper';

let db: Database;
let photographs: number[] = [];
const options = { format: 'jpeg', bits: 8, space: 'srgb', quality: 90 } as const;
const wish = (more: Partial<BatchWish> = {}): BatchWish => ({
  photographs,
  versions: 'now',
  colourways: false,
  pattern: '{name}',
  options,
  ...more,
});

beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
  await Job.destroy({ where: {} });
  const shoot = await createShoot(db, key(), 'Together');
  for (const [i, name] of ['one.png', 'two.png'].entries()) {
    const path = join(inject('folder'), `batch-${name}`);
    await sharp({ create: { width: 8 + i, height: 8, channels: 3, background: '#123' } })
      .png()
      .toFile(path);
    photographs.push((await add(db, shoot.id, name, path)).id);
  }
  photographs = [...photographs].reverse();
  const row = (await DocumentRow.findByPk(photographs[0]))!;
  const ways = ['Ochre', 'Blue / green'].map((name, i) => adjustmentLayer(`w${i}`, 'hueSaturation', name));
  const set = colourwayLayer('set', 'Glazes', 'w0');
  const document = { ...(JSON.parse(row.body) as object), layers: [{ ...set, what: { ...set.what, layers: ways } }] };
  await row.update({ body: JSON.stringify(document) });
  await keepVersion(db, key(), photographs[0]!, 'Warm');
});

describe('files of many photographs', () => {
  it('are named in their order, with versions and colourways where there are some, and not twice the same', async () => {
    const names = async (more: Partial<BatchWish>) => (await namesOfBatch(wish(more))).names;
    expect(await names({ pattern: '{number} {name}' })).toEqual(['1 two.jpg', '2 one.jpg']);
    expect(await names({ pattern: '{name} - {version} - {colourway}', versions: 'both', colourways: true })).toEqual([
      'two - Ochre.jpg',
      'two - Blue green.jpg',
      'two - Warm - Ochre.jpg',
      'two - Warm - Blue green.jpg',
      'one.jpg',
    ]);
    // Of a set only what has passed its target: nothing has been brought to one yet.
    const passed = { pattern: '{name} - {colourway}', colourways: true, passed: true } as const;
    await expect(names(passed)).rejects.toThrow('No alternative has passed its target');
    const row = (await DocumentRow.findByPk(photographs[0]))!;
    const off = (missed: number) => ({
      foundBy: { kind: 'solver', turned: 'settings', readings: [{ id: 'r', aim: { kind: 'neutral' } }], off: missed },
    });
    const { layers, ...rest } = JSON.parse(row.body) as UmboDocument;
    const ways = childrenOf(layers[0]!).map((way, i) => ({ ...way, ...off(i === 0 ? 1.1 : 0.9) }));
    const readings = [{ id: 'r', letter: 'A', name: 'Glaze', spot: { x: 1, y: 1, side: 1 }, tolerance: 1 }];
    await row.update({
      body: JSON.stringify({ ...rest, readings, layers: [{ ...layers[0], what: { ...layers[0]!.what, layers: ways } }] }),
    });
    expect(await names(passed)).toEqual(['two - Blue green.jpg']);
    expect(await names({ ...passed, colourways: false, pattern: '{name}' })).toEqual(['two.jpg', 'one.jpg']);
    expect(await names({ pattern: '{name}{version}', versions: 'versions', options: { ...options, format: 'avif' } })).toEqual([
      'twoWarm.avif',
      'one.avif',
    ]);
    expect(await namesOfBatch(wish({ pattern: 'same' }))).toEqual({ names: ['same.jpg', 'same.jpg'], clashes: ['same.jpg'] });
    const before = await Job.count();
    await expect(queueBatch(db, key(), wish({ pattern: 'same' }))).rejects.toThrow(/would be there twice, such as “same.jpg”/);
    await expect(queueBatch(db, key(), wish({ photographs: [4_000_000] }))).rejects.toThrow(/does not exist/);
    await expect(queueBatch(db, key(), wish({ options: { ...options, bits: 16 } }))).rejects.toThrow('JPEG files hold 8 bits per channel');
    await expect(queueBatch(db, key(), wish({ options: { ...options, format: 'png', atMost: 100 } }))).rejects.toThrow(
      /PNG files cannot be made smaller/,
    );
    expect(await Job.count()).toBe(before);
  });

  it('begin with what somebody waits for, are asked for once, stopped, taken up again and removed together', async () => {
    const id = key();
    expect(await queueBatch(db, id, wish())).toEqual({ id, files: 2 });
    expect(await queueBatch(db, id, wish())).toEqual({ id, files: 2 });
    const files = await listHandOvers(db, { batchId: id });
    expect(files.map(({ options: { fileName } }) => fileName)).toEqual(['two.jpg', 'one.jpg']);
    expect((await listHandOvers(db)).filter(({ batchId }) => batchId !== null)).toEqual([]);
    const [urgent] = await queueHandOver(db, key(), photographs[1]!, { ...options, fileName: 'urgent.jpg' });
    expect((await takeJob(db, 'a', { kind: 'hand-over' }))!.id).toBe(urgent);
    const first = (await takeJob(db, 'a', { kind: 'hand-over' }))!;
    expect(first.id).toBe(files[0]!.id);
    expect(await readHandOverFile(first.id)).toBe('at work');
    await expect(removeBatch(db, id)).rejects.toThrow(/still at work/);
    await cancelBatch(db, id);
    expect((await listBatches(db)).find((one) => one.id === id)).toMatchObject({ files: 2, done: 0, cancelled: 2, progress: 1, shoots: ['Together'], secondsLeft: null }); // prettier-ignore
    expect(await readHandOverFile(first.id)).toBe('none');
    await retryBatch(db, id);
    expect((await listHandOvers(db, { batchId: id })).map(({ state }) => state)).toEqual(['queued', 'queued']);
    await cancelBatch(db, id);
    await removeBatch(db, id);
    await expect(cancelBatch(db, id)).rejects.toThrow(/do not exist/);
    expect(await listHandOvers(db, { batchId: id })).toEqual([]);
  });

  it('have settings that are kept under names', async () => {
    const { versions, colourways, pattern } = wish();
    const settings = { versions, colourways, pattern, options };
    await keepPreset(db, 'Für die Website', settings);
    await keepPreset(db, 'Für die Website', { ...settings, pattern: '{number}' });
    const [kept, ...more] = await listPresets(db);
    expect([kept!.name, kept!.settings.pattern, more]).toEqual(['Für die Website', '{number}', []]);
    await removePreset(db, kept!.id);
    expect(await listPresets(db)).toEqual([]);
  });
});
