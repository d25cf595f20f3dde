/** Treatments against a real MariaDB: kept, changed, used, brought up to date, let go. */
import { carriedFrom, carryChanges, carryInto, type FoundHere } from '@umbo/core/carry';
import {
  adjustmentLayer,
  after,
  childrenOf,
  entryBetween,
  findLayer,
  groupLayer,
  onLayer,
  type Layer,
  type UmboDocument,
} from '@umbo/core/document';
import { starters, treatmentFile } from '@umbo/core/treatment';
import {
  addTreatment,
  carriedBefore,
  carryEntry,
  changeDocument,
  changeTreatment,
  connect,
  createShoot,
  databaseId,
  endJob,
  findCarry,
  keepTrialPicture,
  letGoOf,
  listCarries,
  listTreatments,
  migrate,
  queueCarry,
  readCarry,
  readDocument,
  readTreatment,
  readTrialPicture,
  removeTreatment,
  saveTreatment,
  takeJob,
  treatmentUses,
  type CarryOutcome,
  type CarryWish,
  type Database,
} from '@umbo/data';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import { addPlain, key } from './helper';

let db: Database;
beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
});

const ALL: CarryWish['choice'] = { layers: 'all', regions: false, readings: false, geometry: false };

async function change(id: number, next: (document: UmboDocument) => UmboDocument, entryId = key()): Promise<void> {
  const { document, revision } = await readDocument(db, id);
  const entry = entryBetween(entryId, 'Changed', document, next(document));
  await changeDocument(db, id, { id: key(), database: await databaseId(db), base: revision, changes: [{ type: 'edit', entry }] });
}
const withLayers =
  (...layers: Layer[]) =>
  (document: UmboDocument) =>
    after(document, (draft) => void draft.layers.push(...layers));
const exposure = (id: string): Layer => adjustmentLayer(id, 'exposure', id);
async function photographs(...names: string[]): Promise<{ shootId: number; ids: number[] }> {
  const { id: shootId } = await createShoot(db, key(), 'Made up');
  const ids: number[] = [];
  for (const name of names) ids.push(await addPlain(db, shootId, name));
  return { shootId, ids };
}

const outcome = (settled: FoundHere = {}): CarryOutcome => ({
  report: { masks: [], clipped: { there: 0, was: 0, now: 0 }, words: [] },
  ...{ changed: true, kept: [], remarks: 0, answered: [], settled, found: null },
});

/** Does what waits, as a render process does. */
async function perform(): Promise<void> {
  for (let job = await takeJob(db, 'p', { kind: 'carry' }); job; job = await takeJob(db, 'p', { kind: 'carry' })) {
    const { source, choice, isTrial } = await findCarry(job.batchId!);
    const id = job.id;
    if (!isTrial)
      await change(
        job.photographId,
        (document) => carryInto(document, carriedFrom(source, choice), 'replace', job.batchId!),
        carryEntry(id),
      );
    await endJob(db, id, 'p', {
      state: 'done',
      store: async (transaction) => {
        if (isTrial) await keepTrialPicture(db, id, Buffer.from([255, 216, 255]), transaction);
        return { outcome: JSON.stringify(outcome()) };
      },
    });
  }
}

describe('a treatment', () => {
  it('is kept as one group, in versions that all stay; what everybody has is nobody’s to change', async () => {
    const [a] = (await photographs('a.png')).ids as [number];
    await change(a, withLayers(exposure('x'), exposure('y')));
    const wish = { photographId: a, layers: ['x', 'y'], solve: [], name: 'Evening', note: 'For the garden', of: null };
    const once = key();
    const [first, again] = await Promise.all([saveTreatment(db, once, wish), saveTreatment(db, once, wish)]);
    expect(again).toEqual(first);
    const kept = await readTreatment(first.id);
    expect(kept).toMatchObject({ name: 'Evening', note: 'For the garden', version: 1, isStarter: false, solve: [] });
    expect(kept.document.layers.map(({ what }) => what.kind)).toEqual(['group']);
    expect(childrenOf(kept.document.layers[0]!).map(({ id }) => id)).toEqual(['x', 'y']);
    await expect(saveTreatment(db, key(), { ...wish, layers: ['nothing'] })).rejects.toThrow('Nothing was chosen');
    await expect(saveTreatment(db, key(), { ...wish, solve: ['x'] })).rejects.toThrow('nothing says how to find');

    await changeTreatment(db, first.id, { name: 'Late evening', note: '', solve: [] });
    expect((await listTreatments()).map(({ name }) => name)).toEqual(['Late evening', ...starters.map(({ name }) => name)]);
    await expect(removeTreatment(starters[0]!.id)).rejects.toThrow('everybody has');
    await removeTreatment(first.id);
    await expect(readTreatment(first.id)).rejects.toThrow('does not exist');
  });

  it('comes from a file only when that is sound', async () => {
    const { name, note, document, solve } = treatmentFile(starters[1]!);
    const edit = document as UmboDocument;
    const { id } = await addTreatment(db, key(), { name, note, solve, document: edit });
    expect((await readTreatment(id)).document).toEqual(edit);
    const two = { ...edit, layers: [...edit.layers, groupLayer('another', 'Another')] };
    await expect(addTreatment(db, key(), { name, note, solve, document: two })).rejects.toThrow('one group of layers');
    const odd = { ...edit, layers: [{ ...edit.layers[0], opacity: 3 }] } as unknown as UmboDocument;
    await expect(addTreatment(db, key(), { name, note, solve, document: odd })).rejects.toThrow('not valid');
    await expect(addTreatment(db, key(), { name, note, solve, document: null as unknown as UmboDocument })).rejects.toThrow('not valid');
    await removeTreatment(id);
  });

  it('is tried without a trace, run, known by the photographs that use it, and let go', async () => {
    const { shootId, ids } = await photographs('b.png', 'c.png');
    const [b, c] = ids as [number, number];
    const from = { kind: 'treatment', id: 'flat-sky' } as const;
    const trial = await queueCarry(db, key(), { from, photographs: [b, c], choice: ALL, how: 'replace', isTrial: true });
    await perform();
    const tried = await readCarry(db, trial.id);
    expect(tried).toMatchObject({ isTrial: true, from: 'treatment', sourceName: 'Flat sky', done: 2, here: 0 });
    expect([...(await readTrialPicture(db, tried.to[0]!.jobId))]).toEqual([255, 216, 255]);
    expect([await listCarries(db, shootId), (await readDocument(db, b)).labels, await treatmentUses(db, 'flat-sky')]).toEqual([[], [], []]);

    await queueCarry(db, key(), { from, photographs: [b, c], choice: { ...ALL, strength: 0.5 }, how: 'replace', isTrial: false });
    await perform();
    expect(await treatmentUses(db, 'flat-sky')).toMatchObject([
      { photographId: b, name: 'b.png', shootId, shoot: 'Made up', version: 1 },
      { photographId: c, version: 1 },
    ]);
    expect((await readDocument(db, b)).document.layers[0]).toMatchObject({ name: 'Flat sky', how: { opacity: 0.5 } });
    await letGoOf(db, 'flat-sky', b);
    expect((await treatmentUses(db, 'flat-sky')).map(({ photographId }) => photographId)).toEqual([c]);
    expect((await readDocument(db, b)).labels.at(-1)).toBe('Flat sky let go of its treatment');
    // What a photograph got from another one it has from there.
    await queueCarry(db, key(), { from: { kind: 'photograph', id: c }, photographs: [b], choice: ALL, how: 'whole', isTrial: false });
    await perform();
    expect((await treatmentUses(db, 'flat-sky')).map(({ photographId }) => photographId)).toEqual([c]);
  });

  it('that has a next version knows what a photograph had before, whatever its layers are called there', async () => {
    const [d, e] = (await photographs('d.png', 'e.png')).ids as [number, number];
    await change(
      d,
      withLayers({ ...groupLayer('g', 'Look'), what: { kind: 'group', settings: { apart: false }, layers: [exposure('in')] } }),
    );
    const wish = { photographId: d, layers: ['g'], solve: [], name: 'Look', note: '', of: null };
    const { id } = await saveTreatment(db, key(), wish);
    // The ids of the treatment's layers are taken on the other photograph.
    await change(e, withLayers(exposure('in')));
    const run = async (how: CarryWish['how']) =>
      queueCarry(db, key(), { from: { kind: 'treatment', id }, photographs: [e], choice: ALL, how, isTrial: false });
    await run('replace');
    await perform();
    const [, group] = (await readDocument(db, e)).document.layers;
    const [inside] = childrenOf(group!);
    expect(inside!.id).not.toBe('in');
    await change(e, (document) =>
      after(
        document,
        onLayer(inside!.id, (layer) => void (layer.how.opacity = 0.25)),
      ),
    );
    expect(await saveTreatment(db, key(), { ...wish, photographId: e, layers: [group!.id], of: id })).toEqual({ id, version: 2 });
    const next = await readTreatment(id);
    expect([next.version, next.document.layers[0]!.id, findLayer(next.document, 'in')?.how.opacity]).toEqual([2, 'g', 0.25]);

    const again = await run('changes');
    const carry = await findCarry(again.id);
    const job = { id: (await readCarry(db, again.id)).to[0]!.jobId, photographId: e };
    const before = await carriedBefore(db, carry, job, (await readDocument(db, e)).document);
    expect(before.map(({ source }) => source.layers[0])).toMatchObject([{ id: 'g', treatment: { id, version: 1 } }]);
    expect(findLayer(before[0]!.source, 'in')?.how.opacity).toBe(1);
    expect(carry.source.layers[0]).toMatchObject({ treatment: { id, version: 2 } });
    await letGoOf(db, id, e);
    // What was let go of stays as it is, also when a next version comes.
    const { document: own } = await readDocument(db, e);
    const earlier = (await carriedBefore(db, carry, job, own)).map((one) => ({
      ...one,
      by: one.id,
      carried: carriedFrom(one.source, ALL),
    }));
    const now = { by: carry.id, source: carry.source, carried: carriedFrom(carry.source, ALL), settled: {} };
    expect(carryChanges(own, earlier, now).document).toEqual(own);
    await perform();
  });
});
