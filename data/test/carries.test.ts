/** Carrying that is asked for on the server: once, within a shoot, stopped, tried again, told, and taken back with nothing else lost. */
import { beforeAll, describe, expect, inject, it } from 'vitest';
import { carriedFrom, carryInto } from '@umbo/core/carry';
import { adjustmentLayer, after, entryBetween, onLayer, type UmboDocument } from '@umbo/core/document';
import {
  cancelCarry,
  carriedBefore,
  carryEntry,
  changeDocument,
  connect,
  createShoot,
  databaseId,
  emptyBin,
  changePhotographs,
  endJob,
  findCarry,
  foundBefore,
  followEvents,
  listCarries,
  migrate,
  queueCarry,
  readCarry,
  readDocument,
  retryCarry,
  takeBackCarry,
  takeJob,
  type CarryOutcome,
  type CarryWish,
  type Database,
} from '@umbo/data';
import { addPlain, cache, key } from './helper';

let db: Database;
beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
});

async function shootOf(...names: string[]): Promise<{ shootId: number; ids: number[] }> {
  const { id: shootId } = await createShoot(db, key(), 'Carried');
  const ids: number[] = [];
  for (const name of names) ids.push(await addPlain(db, shootId, name));
  return { shootId, ids };
}

/** One step on an edit. */
async function change(id: number, label: string, next: (document: UmboDocument) => UmboDocument, entryId = key()): Promise<void> {
  const { document, revision } = await readDocument(db, id);
  const entry = entryBetween(entryId, label, document, next(document));
  await changeDocument(db, id, { id: key(), database: await databaseId(db), base: revision, changes: [{ type: 'edit', entry }] });
}
const addLayer = (id: string) => (document: UmboDocument) =>
  after(document, (draft) => void draft.layers.push(adjustmentLayer(id, 'exposure', id)));
const layersOf = async (id: number): Promise<string[]> => (await readDocument(db, id)).document.layers.map((layer) => layer.id);

const ALL: CarryWish['choice'] = { layers: 'all', regions: false, readings: false, geometry: false };
const take = async (holder: string) => (await takeJob(db, holder, { kind: 'carry' }))!;
const outcome = (remarks: number): CarryOutcome => ({
  report: { masks: [], clipped: { there: 0, was: 0, now: 0 }, words: [] },
  changed: true,
  kept: [],
  remarks,
  answered: [],
  settled: {},
  found: null,
});

/** Does what waits, as a render process does. @returns the photographs, in the order in which they came */
async function perform(remarks = 0): Promise<number[]> {
  const done: number[] = [];
  for (let job = await takeJob(db, 'p', { kind: 'carry' }); job; job = await takeJob(db, 'p', { kind: 'carry' })) {
    const { source, choice } = await findCarry(job.batchId!);
    const into = (document: UmboDocument): UmboDocument => carryInto(document, carriedFrom(source, choice), 'replace', job.batchId!);
    await change(job.photographId, 'Carried', into, carryEntry(job.id));
    await endJob(db, job.id, 'p', { state: 'done', store: async () => ({ outcome: JSON.stringify(outcome(remarks)) }) });
    done.push(job.photographId);
  }
  return done;
}

describe('carrying', () => {
  it('is asked for once, within one shoot, of something that is there; whoever looks at the shoot is told', async () => {
    const { shootId, ids } = await shootOf('a.png', 'c.png', 'b.png');
    const [a, c, b] = ids as [number, number, number];
    const wish: CarryWish = { from: { kind: 'photograph', id: a }, photographs: [c, b], choice: ALL, how: 'replace', isTrial: false };
    await expect(queueCarry(db, key(), wish)).rejects.toThrow('Nothing was chosen');
    await change(a, 'New', addLayer('x'));
    await expect(queueCarry(db, key(), { ...wish, photographs: [a, b] })).rejects.toThrow('not carried to itself');
    const elsewhere = (await shootOf('d.png')).ids[0]!;
    await expect(queueCarry(db, key(), { ...wish, photographs: [b, elsewhere] })).rejects.toThrow('not in this shoot');
    expect(await listCarries(db, shootId)).toEqual([]);

    expect(await foundBefore(db, b, 'a finder')).toBeNull();
    const heard = followEvents(db);
    await heard();
    const id = key();
    expect(await Promise.all([queueCarry(db, id, wish), queueCarry(db, id, wish)])).toEqual([
      { id, photographs: 2 },
      { id, photographs: 2 },
    ]);
    // What happens to the source afterwards does not come along.
    await change(a, 'Another', addLayer('y'));
    expect(await perform(2)).toEqual([b, c]); // by their names
    expect((await heard()).filter(({ kind, subject }) => kind === 'carry' && subject === shootId).length).toBeGreaterThanOrEqual(3);
    expect([await layersOf(b), await layersOf(c)]).toEqual([['x'], ['x']]);
    // What was looked for before something is run for good is known then.
    const regions = [{ role: 'sky', person: null, sure: 'sure', sha256: 'f'.repeat(64) }];
    const found = JSON.stringify({ ...outcome(2), found: { by: 'a finder', roles: ['sky'], regions } });
    await db.query('UPDATE jobs SET outcome = $1 WHERE batchId = $2 AND photographId = $3', { bind: [found, id, c] });
    expect(await foundBefore(db, c, 'a finder')).toEqual({ by: 'a finder', roles: ['sky'], regions });
    expect(await listCarries(db, shootId)).toMatchObject([
      { id, sourceName: 'a.png', photographs: 2, done: 2, here: 2, remarks: 2, progress: 1 },
    ]);
    expect((await readCarry(db, id)).to).toMatchObject([
      { photographId: b, name: 'b.png', state: 'done', isHere: true, outcome: { remarks: 2 } },
      { photographId: c, name: 'c.png', state: 'done', isHere: true },
    ]);
  });

  it('stops, goes on where it failed or stopped, and goes with the photograph or the shoot', async () => {
    const { shootId, ids } = await shootOf('e.png', 'f.png', 'g.png');
    const [from, f, g] = ids as [number, number, number];
    await change(from, 'New', addLayer('x'));
    const { id } = await queueCarry(db, key(), {
      from: { kind: 'photograph', id: from },
      photographs: [f, g],
      choice: ALL,
      how: 'add',
      isTrial: false,
    });
    const job = await take('p');
    await endJob(db, job.id, 'p', { state: 'failed', error: 'No room' });
    await cancelCarry(db, id);
    expect((await readCarry(db, id)).to.map(({ state, error }) => [state, error])).toEqual([
      ['failed', 'No room'],
      ['cancelled', null],
    ]);
    expect(await takeJob(db, 'p', { kind: 'carry' })).toBeNull();
    await retryCarry(db, id);
    expect(await perform()).toEqual([f, g]);
    await changePhotographs(db, [from, g], { removed: true });
    await emptyBin(db, cache(), shootId);
    expect(await readCarry(db, id)).toMatchObject({ sourceId: null, sourceName: 'e.png', photographs: 1 });
  });

  it('is taken back: by a step of undo, or beside what was done since, on one photograph or on all', async () => {
    const { ids } = await shootOf('h.png', 'i.png', 'j.png', 'k.png');
    const [from, i, j, k] = ids as [number, number, number, number];
    await change(from, 'New', addLayer('x'));
    const { id } = await queueCarry(db, key(), {
      from: { kind: 'photograph', id: from },
      photographs: [i, j, k],
      choice: ALL,
      how: 'replace',
      isTrial: false,
    });
    await perform();
    await change(j, 'Own', addLayer('own'));
    await change(
      j,
      'Tuned',
      onLayerOf('x', (layer) => void (layer.how.opacity = 0.5)),
    );
    const here = async (): Promise<boolean[]> => (await readCarry(db, id)).to.map(({ isHere }) => isHere);
    expect(await takeBackCarry(db, id, i)).toEqual({ photographs: 1 });
    expect([await here(), await layersOf(i), (await readDocument(db, i)).position]).toEqual([[false, true, true], [], 0]);
    expect((await readDocument(db, i)).labels).toEqual(['Carried']); // redo brings it again
    expect(await takeBackCarry(db, id, null)).toEqual({ photographs: 2 });
    expect([await here(), await layersOf(k)]).toEqual([[false, false, false], []]);
    // A layer that was tuned since is somebody's own by now.
    expect(await layersOf(j)).toEqual(['x', 'own']);
    expect((await readDocument(db, j)).labels.at(-1)).toBe('Take back what came from h.png');
    expect(await takeBackCarry(db, id, null)).toEqual({ photographs: 0 });
  });

  it('knows what came before from the same photograph, unless that was taken back', async () => {
    const { ids } = await shootOf('l.png', 'm.png');
    const [from, m] = ids as [number, number];
    await change(from, 'New', addLayer('x'));
    const wish: CarryWish = { from: { kind: 'photograph', id: from }, photographs: [m], choice: ALL, how: 'changes', isTrial: false };
    const first = await queueCarry(db, key(), wish);
    const jobOf = async ({ id }: { id: string }) => ({ id: (await readCarry(db, id)).to[0]!.jobId, photographId: m });
    const before = async (one: { id: string }) =>
      (await carriedBefore(db, await findCarry(one.id), await jobOf(one), (await readDocument(db, m)).document)).map((was) => was.id);
    expect(await before(first)).toEqual([]);
    await perform();
    const second = await queueCarry(db, key(), wish);
    expect(await before(second)).toEqual([first.id]);
    await takeBackCarry(db, first.id, null);
    expect(await before(second)).toEqual([]);
    await perform();
  });
});

const onLayerOf = (id: string, work: Parameters<typeof onLayer>[1]) => (document: UmboDocument) => after(document, onLayer(id, work));
