/** What is kept beside an edit and its history: versions, palettes, one file for every colourway. */
import { join } from 'node:path';
import { writeFile } from 'node:fs/promises';
import {
  adjustmentLayer,
  colourwayLayer,
  edit,
  emptyDocument,
  insertLayers,
  onLayer,
  removeLayers,
  type Layer,
  type Recipe,
} from '@umbo/core/document';
import { maskPartKind } from '@umbo/core/mask';
import sharp from 'sharp';
import { beforeAll, beforeEach, describe, expect, inject, it } from 'vitest';
import { Problem } from '@umbo/core/base';
import {
  addSwatch,
  changeDocument,
  checkDocument,
  connect,
  createPalette,
  createShoot,
  databaseId,
  Job,
  keepMask,
  keepVersion,
  listMasks,
  listPalettes,
  listShoots,
  listVersions,
  migrate,
  Photograph,
  queueHandOver,
  readAskedEdit,
  readDocument,
  readMask,
  readShoot,
  readVersion,
  removeMask,
  renameMask,
  removePalette,
  removeShoot,
  removeSwatch,
  removeVersion,
  renamePalette,
  renameSwatch,
  renameVersion,
  type Database,
  type HandOverOptions,
} from '@umbo/data';
import { hashFile } from '@umbo/files';
import { add, addMask, cache, key } from './helper';

const folder = inject('folder');
let db: Database;
let shootId: number;
let id: number;
let step = 0;

beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
});

beforeEach(async () => {
  const path = join(folder, 'version.png');
  await writeFile(
    path,
    await sharp({ create: { width: 9, height: 7, channels: 3, background: '#284' } })
      .png()
      .toBuffer(),
  );
  shootId = (await createShoot(db, key(), 'Versions')).id;
  id = (await add(db, shootId, 'version.png', path)).id;
});

async function change(...recipes: Recipe[]): Promise<void> {
  for (const recipe of recipes) {
    const { document, revision } = await readDocument(db, id);
    const { patches, inverse } = edit(document, recipe);
    const entry = { id: `v${++step}`, label: `step ${step}`, patches, inverse };
    await changeDocument(db, id, { database: await databaseId(db), id: `w${step}`, base: revision, changes: [{ type: 'edit', entry }] });
  }
}
const layer = (name: string): Layer => adjustmentLayer(name, 'hueSaturation', name);
const kindOf = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'no problem',
    (error: unknown) => (error instanceof Problem ? error.kind : String(error)),
  );

describe('versions', () => {
  it('hold the edit as it was, whatever is done, undone or removed later', async () => {
    await change(insertLayers([layer('a')], null));
    const first = await keepVersion(db, key(), id, 'For the client');
    await change(
      onLayer('a', ({ what }) => void Object.assign(what.settings, { hue: 50 })),
      removeLayers(['a']),
    );
    const second = await keepVersion(db, key(), id, 'Empty again');
    // Undone, and another branch begun: the entries that led to the versions are gone from the history.
    const { revision } = await readDocument(db, id);
    await changeDocument(db, id, {
      database: await databaseId(db),
      id: `w${++step}`,
      base: revision,
      changes: [{ type: 'go', from: (await readDocument(db, id)).position, to: 0 }],
    });
    await change(insertLayers([layer('other')], null));
    expect((await readDocument(db, id)).labels).toHaveLength(1);

    expect((await listVersions(id)).map(({ name }) => name)).toEqual(['For the client', 'Empty again']);
    expect((await readVersion(first.id)).document.layers.map(({ name }) => name)).toEqual(['a']);
    expect((await readVersion(second.id)).document.layers).toEqual([]);
    await renameVersion(second.id, 'Nothing done');
    expect((await readVersion(second.id)).name).toBe('Nothing done');
    await removeVersion(first.id);
    expect((await listVersions(id)).map(({ name }) => name)).toEqual(['Nothing done']);
  });

  it('of photographs and ids that do not exist are not found, and go with their photograph', async () => {
    const { id: version } = await keepVersion(db, key(), id, 'One');
    expect(await kindOf(keepVersion(db, key(), 4_000_000, 'x'))).toBe('not-found');
    for (const act of [readVersion, removeVersion, (nobody: number) => renameVersion(nobody, 'x')])
      expect(await kindOf(act(4_000_000))).toBe('not-found');
    await Photograph.destroy({ where: { id } });
    expect(await kindOf(readVersion(version))).toBe('not-found');
  });
});

describe('masks', () => {
  const kept = (...layers: Layer[]): unknown => ({ ...emptyDocument({ width: 9, height: 7 }), layers });

  it('are kept with the shoot as edits of one layer, and go with it', async () => {
    const masked = layer('m');
    masked.where.parts = [maskPartKind('ellipse').create('e', 'add', { width: 9, height: 7 })];
    const mask = await keepMask(db, key(), shootId, 'Face', kept(masked));
    await renameMask(mask.id, 'Faces');
    expect(await listMasks(shootId)).toEqual([{ id: mask.id, name: 'Faces' }]);
    expect((await readMask(mask.id)).document.layers).toEqual([masked]);
    for (const wrong of [kept(), kept(masked, layer('n')), { layers: [] }, 7])
      expect(await kindOf(keepMask(db, key(), shootId, 'x', wrong))).toBe('invalid');
    await removeShoot(db, cache(), shootId);
    expect(await kindOf(readMask(mask.id))).toBe('not-found');
    expect(await kindOf(removeMask(mask.id))).toBe('not-found');
  });

  it('that are imported are no photographs of the shoot, and can be handed over as a grey file', async () => {
    const path = join(folder, 'version.png');
    const picture = await addMask(db, { shootId, name: 'mask.png' }, path);
    const sha256 = await hashFile(path);
    const { photographs, masks } = await readShoot(db, shootId);
    expect([photographs.map((p) => p.id), masks]).toEqual([
      [id],
      [{ id: picture, sha256, name: 'mask.png', width: 9, height: 7, isFound: false }],
    ]);
    expect((await listShoots(db)).find((shoot) => shoot.id === shootId)).toMatchObject({ photographs: 1 });

    await change(insertLayers([layer('a')], null));
    const options: HandOverOptions = { fileName: 'm.png', format: 'png', bits: 16, space: 'srgb', quality: 90 };
    const [queued] = await queueHandOver(db, key(), id, options, false, 'a');
    const wanted = JSON.parse((await Job.findByPk(queued))!.options) as HandOverOptions;
    expect(wanted).toMatchObject({ grey: true, fileName: 'm.png' });
    expect((await readAskedEdit(db, queued!, wanted)).layers.map(({ what }) => what.kind)).toEqual(['fill', 'fill']);
    expect(await kindOf(queueHandOver(db, key(), id, options, false, 'gone'))).toBe('not-found');
  });
});

describe('palettes', () => {
  it('belong to the shoot, with their swatches to the last digit', async () => {
    const colour: [number, number, number] = [0.123456789, 1, 1 / 3];
    const palette = await createPalette(db, key(), shootId, 'Glazes', [
      { name: 'Sea', colour },
      { name: 'Ink', colour: [0, 0, 0.2] },
    ]);
    await addSwatch(db, key(), palette.id, { name: 'Kiln', colour: [0.9, 0.3, 0.1] });
    await renameSwatch(palette.swatches[1]!.id, 'Night');
    await renamePalette(palette.id, 'Glazes, spring');
    const other = (await createShoot(db, key(), 'Other')).id;
    await createPalette(db, key(), other, 'Theirs', []);
    const [read, ...more] = await listPalettes(shootId);
    expect(more).toEqual([]);
    expect(read!.name).toBe('Glazes, spring');
    expect(read!.swatches.map(({ name }) => name)).toEqual(['Sea', 'Night', 'Kiln']);
    expect(read!.swatches[0]!.colour).toEqual(colour);
    await removeSwatch(read!.swatches[0]!.id);
    expect((await listPalettes(shootId))[0]!.swatches).toHaveLength(2);
    await removePalette(palette.id);
    expect(await listPalettes(shootId)).toEqual([]);
    expect(await kindOf(addSwatch(db, key(), palette.id, { name: 'x', colour: [0, 0, 0] }))).toBe('not-found');
    await removeShoot(db, cache(), other);
    expect(await kindOf(listPalettes(other))).toBe('not-found');
  });

  it('two windows that add at once both keep what they added', async () => {
    const { id: palette } = await createPalette(db, key(), shootId, 'Both', []);
    await Promise.all(Array.from({ length: 8 }, (_, i) => addSwatch(db, key(), palette, { name: `s${i}`, colour: [0, 0, i / 8] })));
    expect((await listPalettes(shootId))[0]!.swatches.map(({ name }) => name).sort()).toEqual(Array.from({ length: 8 }, (_, i) => `s${i}`));
  });
});

describe('hand-over of colourways', () => {
  const options: HandOverOptions = { fileName: 'coat.png', format: 'png', bits: 8, space: 'srgb', quality: 90 };

  it('asks for one file for every alternative, each named after it and with it shown', async () => {
    const set = colourwayLayer('w', 'Coat', 'p');
    if (set.what.kind === 'colourways') set.what.layers = [layer('p'), { ...layer('q'), name: 'p' }, { ...layer('r'), name: 'Moss/green' }];
    await change(insertLayers([layer('a'), set], null));
    const jobs = await Job.findAll({ where: { id: await queueHandOver(db, key(), id, options, true) } });
    const wanted = jobs.map((job) => JSON.parse(job.options) as HandOverOptions);
    expect(wanted.map(({ fileName }) => fileName)).toEqual(['coat - p.png', 'coat - p 2.png', 'coat - Moss green.png']);
    const edits = await Promise.all(jobs.map((job, i) => readAskedEdit(db, job.id, wanted[i]!)));
    const shown = edits.map((edit) => checkDocument(edit).layers[1]!.what);
    expect(shown.map((what) => what.kind === 'colourways' && what.settings.shown)).toEqual(['p', 'q', 'r']);
    expect(await queueHandOver(db, key(), id, options)).toHaveLength(1);
  });

  it('of an edit without a set is refused', async () => {
    expect(await kindOf(queueHandOver(db, key(), id, options, true))).toBe('invalid');
  });
});

describe('edits that are not sound', () => {
  it('are refused by the server in a sentence, and change nothing', async () => {
    await change(insertLayers([layer('a'), layer('b')], null));
    const loop: Recipe = (draft) => {
      draft.layers[0]!.where.link = 'b';
      draft.layers[1]!.where.link = 'a';
    };
    await expect(change(loop)).rejects.toThrow(/linked in a loop/);
    await expect(change((draft) => void (draft.layers[0]!.where.link = 'nobody'))).rejects.toThrow(/does not exist/);
    expect((await readDocument(db, id)).document.layers.every(({ where }) => where.link === undefined)).toBe(true);
    expect(() => checkDocument({ format: 'something else' })).toThrow(Problem);
    expect(() => checkDocument([])).toThrow(/not valid/);
  });
});
