import { noGeometry } from '@umbo/core/geometry';
import { ENGINE_VERSION, Problem } from '@umbo/core/base';
import { join } from 'node:path';
import { writeFile } from 'node:fs/promises';
import { adjustmentLayer, edit, insertLayers, onLayer, type Change, type Entry, type Recipe, type UmboDocument } from '@umbo/core/document';
import sharp from 'sharp';
import { beforeAll, beforeEach, describe, expect, inject, it } from 'vitest';
import {
  cancelHandOver,
  changeDocument,
  connect,
  createShoot,
  databaseId,
  endJob,
  findHandOver,
  listHandOvers,
  Job,
  migrate,
  Photograph,
  queueHandOver,
  readAskedEdit,
  readDocument,
  readEntries,
  releaseJob,
  removeHandOver,
  renewJob,
  takeJob,
  waitingKinds,
  type Database,
  type HandOverOptions,
} from '@umbo/data';
import { add, key } from './helper';

const folder = inject('folder');
let db: Database;
let id: number;
let document: UmboDocument;
let revision: number;
let step = 0;

beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
});

beforeEach(async () => {
  const path = join(folder, 'dot.png');
  await writeFile(
    path,
    await sharp({ create: { width: 8, height: 8, channels: 3, background: '#a33' } })
      .png()
      .toBuffer(),
  );
  id = (await add(db, (await createShoot(db, key(), 'Test')).id, 'dot.png', path)).id;
  ({ document, revision } = await readDocument(db, id));
});

function change(recipe: Recipe, label = `step ${++step}`): Change & { type: 'edit' } {
  const result = edit(document, recipe);
  document = result.document;
  return { type: 'edit', entry: { id: `e${++step}`, label, patches: result.patches, inverse: result.inverse } };
}
const send = async (changes: Change[], base = revision, batch = `b${++step}`): Promise<void> => {
  ({ revision } = await changeDocument(db, id, { database: await databaseId(db), id: batch, base, changes }));
};
const newLayer = (name: string): Recipe => insertLayers([adjustmentLayer(name, 'hueSaturation', name)], null);
const setHue = (name: string, hue: number): Recipe => onLayer(name, ({ what }) => void Object.assign(what.settings, { hue }));
const problem = async (work: Promise<unknown>): Promise<Problem> => {
  const error = await work.then(
    () => null,
    (e: unknown) => e,
  );
  expect(error).toBeInstanceOf(Problem);
  return error as Problem;
};

describe('keeping an edit', () => {
  it('keeps changes, their labels and their order; the photograph is in work', async () => {
    await send([change(newLayer('a'), 'New layer a'), change(setHue('a', 20), 'Hue +20°')]);
    const state = await readDocument(db, id);
    expect(state.document).toEqual(document);
    expect(state).toMatchObject({ revision: 2, position: 2, labels: ['New layer a', 'Hue +20°'] });
    expect((await Photograph.findByPk(id))!.state).toBe('in work');
  });

  it('goes back and forth without limit, and a new change ends what was undone', async () => {
    const states = [document];
    for (const recipe of [newLayer('a'), setHue('a', 1), setHue('a', 2), newLayer('b'), setHue('b', 3)]) {
      await send([change(recipe)]);
      states.push(document);
    }
    let from = 5;
    for (const to of [3, 0, 5, 1, 4, 2]) {
      await send([{ type: 'go', from, to }]);
      from = to;
      expect((await readDocument(db, id)).document).toEqual(states[to]);
    }
    document = states[2]!;
    await send([change(setHue('a', 99), 'another way')]);
    const state = await readDocument(db, id);
    expect(state.labels).toHaveLength(3);
    expect(state.labels[2]).toBe('another way');
    const entries: Entry[] = await readEntries(db, id, 1, 3, revision);
    expect(entries.map(({ label }) => label)).toEqual(state.labels.slice(1));
    expect((await problem(send([{ type: 'go', from: 3, to: 9 }]))).kind).toBe('invalid');
  });

  it('refuses a write on an old revision and changes nothing, and takes a repeated batch once', async () => {
    await send([change(newLayer('a'))], revision, 'first');
    const kept = await readDocument(db, id);
    const late = await problem(
      changeDocument(db, id, { database: await databaseId(db), id: 'late', base: 1, changes: [change(newLayer('b'))] }),
    );
    expect(late.kind).toBe('conflict');
    expect(late.details.revision).toBe(2);
    await send([], 1, 'first'); // an answer that was lost: the same batch again
    expect(await readDocument(db, id)).toEqual(kept);
    ({ document } = kept);
    await send([change(setHue('a', 7))]);
    const later = await readDocument(db, id);
    await send([], 1, 'first'); // and again, after something else came in between
    expect(revision).toBe(2);
    expect(await readDocument(db, id)).toEqual(later);
    const foreign = { database: 'another', id: 'x', base: later.revision, changes: [change(setHue('a', 8))] };
    expect((await problem(changeDocument(db, id, foreign))).kind).toBe('refused');
    expect((await problem(readEntries(db, id, 0, 1, 1))).kind).toBe('conflict');
    const jumps: Change[] = Array.from({ length: 200 }, (_, i) => ({ type: 'go', from: i % 2 ? 0 : 500, to: i % 2 ? 500 : 0 }));
    expect((await problem(send(jumps, later.revision))).message).toMatch(/at most 20000 entries/);
    expect(await readDocument(db, id)).toEqual(later);
  });

  it('lets one of two writers through when both write at once', async () => {
    const changes = [change(newLayer('a'))];
    const database = await databaseId(db);
    const results = await Promise.allSettled(
      Array.from({ length: 8 }, (_, i) => changeDocument(db, id, { database, id: `w${i}`, base: revision, changes })),
    );
    expect(results.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    expect((await readDocument(db, id)).document.layers).toHaveLength(1);
  });

  it('refuses changes that do not give a valid edit, as a whole', async () => {
    const good = change(newLayer('a'));
    const bad = (patches: object[]): Change => ({ type: 'edit', entry: { id: 'x', label: 'x', patches: patches as never, inverse: [] } });
    for (const spoiled of [
      bad([{ op: 'replace', path: ['layers', 0, 'how', 'mode'], value: 'sparkle' }]),
      bad([{ op: 'replace', path: ['layers', 7, 'name'], value: 'nobody' }]),
      bad([{ op: 'add', path: ['extra'], value: 1 }]),
      bad([{ op: 'replace', path: ['__proto__', 'polluted'], value: true }]),
      bad([{ op: 'replace', path: ['layers', 'length'], value: 1_000_000_000 }]),
      bad([{ op: 'add', path: ['layers', 4_294_967_290], value: {} }]),
      bad([{ op: 'remove', path: [] }]),
      bad([{ op: 'replace', path: ['layers', 1e15, 'on'], value: false }]),
      bad(change((draft) => void (draft.photo.width = 1)).entry.patches),
      // What does not lead back could never be undone.
      { type: 'edit', entry: { ...change(setHue('a', 50)).entry, inverse: [] } } as Change,
      { type: 'edit', entry: { ...change(setHue('a', 60)).entry, inverse: change(newLayer('z')).entry.patches } } as Change,
    ])
      expect((await problem(send([good, spoiled]))).kind).toBe('invalid');
    expect((await readDocument(db, id)).revision).toBe(1);
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
    expect((await problem(readDocument(db, 4_000_000))).kind).toBe('not-found');
  });
});

describe('jobs', () => {
  const options: HandOverOptions = { fileName: 'dot.png', format: 'png', bits: 8, space: 'srgb', quality: 90 };

  it('are taken by one holder each, renewed, and taken again when a holder dies', async () => {
    await Job.destroy({ where: {} });
    expect(await waitingKinds(db)).toEqual(new Map());
    const ids = [...(await queueHandOver(db, key(), id, options)), ...(await queueHandOver(db, key(), id, options))];
    expect(await waitingKinds(db)).toEqual(new Map([['hand-over', true]]));
    const taken = await Promise.all(['a', 'b', 'c', 'd'].map((holder) => takeJob(db, holder, { kind: 'hand-over' })));
    expect(
      taken
        .filter((job) => job !== null)
        .map((job) => job!.id)
        .sort(),
    ).toEqual(ids.sort());
    const first = taken.findIndex((job) => job !== null);
    const holder = 'abcd'[first]!;
    const job = taken[first]!;
    expect(await renewJob(db, job.id, holder, 0.5)).toBe(true);
    expect(await renewJob(db, job.id, 'someone else', 0.6)).toBe(false);
    await Job.update({ leaseUntil: new Date(Date.now() - 1000) }, { where: { id: job.id } });
    // Its lease ran out: it waits again.
    expect(await waitingKinds(db)).toEqual(new Map([['hand-over', true]]));
    expect((await takeJob(db, 'z', { kind: 'hand-over' }))!.id).toBe(job.id);
    expect(await endJob(db, job.id, holder, { state: 'done', store: async () => null })).toBe(false);
    expect(await endJob(db, job.id, 'z', { state: 'failed', error: 'no' })).toBe(true);
    expect((await findHandOver(job.id)).state).toBe('failed');
  });

  it('know how large the picture is that is cut from the photograph, before it has the size of the file', async () => {
    const crop = { x: 1, y: 0, width: 6, height: 4 };
    await send([change((draft) => void (draft.geometry = { ...noGeometry, quarters: 1, crop }))]);
    const [whole] = await queueHandOver(db, key(), id, options);
    const [half] = await queueHandOver(db, key(), id, { ...options, size: { kind: 'percent', percent: 50 } });
    const sizes = (await listHandOvers(db)).filter((one) => [whole, half].includes(one.id)).map(({ width, height }) => [width, height]);
    expect(sizes).toEqual([
      [3, 2],
      [6, 4],
    ]);
    // What no picture can be is refused, and changes nothing.
    const huge = change((draft) => void (draft.geometry!.crop = { ...crop, width: 60_000, height: 60_000 }));
    expect((await problem(send([huge]))).kind).toBe('invalid');
    expect((await readDocument(db, id)).document.geometry!.crop).toEqual(crop);
  });

  it('are given back while the database is away, which does not count as a try', async () => {
    await Job.destroy({ where: {} });
    const [wanted] = await queueHandOver(db, key(), id, options);
    for (let i = 0; i < 5; i++) {
      expect((await takeJob(db, 'a', { kind: 'hand-over' }))!.id).toBe(wanted);
      await releaseJob(db, wanted!, 'someone else');
      expect(await takeJob(db, 'b', { kind: 'hand-over' })).toBeNull();
      await releaseJob(db, wanted!, 'a');
    }
    expect((await findHandOver(wanted!)).attempts).toBe(0);
  });

  it('are left for an engine that can do them', async () => {
    await Job.destroy({ where: {} });
    const [wanted] = await queueHandOver(db, key(), id, options);
    expect(await takeJob(db, 'old', { kind: 'hand-over' }, ENGINE_VERSION - 1)).toBeNull();
    expect((await takeJob(db, 'newer', { kind: 'hand-over' }, ENGINE_VERSION + 1))!.id).toBe(wanted);
  });

  it('can be cancelled, render what was asked for, and give up after three crashes', async () => {
    await Job.destroy({ where: {} });
    const job = { id: (await queueHandOver(db, key(), id, options))[0]! };
    await send([change(newLayer('later'))]);
    const taken = (await takeJob(db, 'a', { kind: 'hand-over' }))!;
    expect((await readAskedEdit(db, taken.id, taken.options)).layers).toEqual([]);
    expect((await problem(removeHandOver(db, job.id))).kind).toBe('conflict');
    await cancelHandOver(db, job.id);
    expect(await renewJob(db, job.id, 'a', 0.9)).toBe(false);
    await removeHandOver(db, job.id);
    expect((await problem(findHandOver(job.id))).kind).toBe('not-found');
    expect((await problem(queueHandOver(db, key(), id, { ...options, format: 'jpeg', bits: 16 }))).kind).toBe('invalid');
    const unlucky = { id: (await queueHandOver(db, key(), id, options))[0]! };
    for (let i = 0; i < 3; i++) {
      expect((await takeJob(db, 'a', { kind: 'hand-over' }))!.id).toBe(unlucky.id);
      await Job.update({ leaseUntil: new Date(0) }, { where: { id: unlucky.id } });
    }
    expect(await takeJob(db, 'a', { kind: 'hand-over' })).toBeNull();
    expect((await findHandOver(unlucky.id)).state).toBe('failed');
  });
});
