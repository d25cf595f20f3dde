import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { writeFile } from 'node:fs/promises';
import sharp from 'sharp';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import {
  colourFacts,
  connect,
  createShoot,
  endJob,
  findPhotograph,
  listHandOvers,
  listShoots,
  migrate,
  queueHandOver,
  readPreview,
  readSetting,
  readShoot,
  removeShoot,
  renameShoot,
  changePhotographs,
  emptyBin,
  movePhotographs,
  readBin,
  renamePhotograph,
  sheetContent,
  sweepBins,
  readMetadata,
  assetInfo,
  changeDocument,
  DocumentRow,
  databaseId,
  readDocument,
  sweepReferences,
  Photograph,
  storePreview,
  takeJob,
  wantPreviews,
  writeSetting,
  Job,
  type Database,
} from '@umbo/data';
import { comparisonPdf, levelFile, sheetPdf, sheetPicture } from '@umbo/files';
import { adjustmentLayer, after, entryBetween } from '@umbo/core/document';
import { maskPartKind, type MaskPart } from '@umbo/core/mask';
import { add, addMask, cache, key } from './helper';
import { QueryTypes, type Transaction } from 'sequelize';

const folder = inject('folder');
let db: Database;
let colour = 0;

beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
});

async function dot(name: string): Promise<string> {
  const path = join(folder, name);
  const background = `rgb(${++colour}, 90, 120)`;
  await sharp({ create: { width: 9, height: 7, channels: 3, background } }).png().toFile(path); // prettier-ignore
  return path;
}
const addDot = async (shootId: number, name: string): Promise<number> => (await add(db, shootId, name, await dot(name))).id;
const rows = async (table: string): Promise<number> =>
  (await db.query<{ n: number }>(`SELECT COUNT(*) n FROM ${table}`, { type: QueryTypes.SELECT }))[0]!.n;

describe('shoots', () => {
  it('list their photographs, covers and states; names change', async () => {
    const { id } = await createShoot(db, key(), 'Ümlaut & “quotes”, 漢字 🎞');
    const photographs = await Promise.all(['a.png', 'b.png', 'c.png', 'd.png', 'e.png'].map((name) => addDot(id, name)));
    await changePhotographs(db, [photographs[0]!], { state: 'done' });
    await changePhotographs(db, [photographs[1]!], { state: 'in work' });
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
    const of = { sha256, space: 'srgb' } as const;
    expect(existsSync(levelFile(cache(), of, 0))).toBe(true);
    await removeShoot(db, cache(), id);
    expect(existsSync(levelFile(cache(), of, 0))).toBe(false);
    expect(await Promise.all(['photographs', 'documents', 'assets', 'asset_chunks', 'jobs'].map(rows))).toEqual(before);
    await expect(findPhotograph(photograph)).rejects.toThrow(/does not exist/);
    await expect(readShoot(db, id)).rejects.toThrow(/does not exist/);
    await expect(renameShoot(id, 'x')).rejects.toThrow(/does not exist/);
  });
});

describe('many photographs', () => {
  it('go into the bin together or not at all, come back, and are gone with their files when it is emptied', async () => {
    const { id } = await createShoot(db, key(), 'Bin');
    const [a, b, c] = (await Promise.all(['bin-a.png', 'bin-b.png', 'bin-c.png'].map((name) => addDot(id, name)))) as [
      number,
      number,
      number,
    ];
    const names = async (): Promise<string[]> => (await readShoot(db, id)).photographs.map(({ name }) => name).sort();
    await expect(changePhotographs(db, [a, 4_000_000], { removed: true })).rejects.toThrow(/does not exist/);
    expect(await names()).toHaveLength(3);
    await changePhotographs(db, [a, b], { removed: true });
    expect(await names()).toEqual(['bin-c.png']);
    expect((await listShoots(db)).find((shoot) => shoot.id === id)).toMatchObject({ photographs: 1, cover: [{ id: c }] });
    const bin = await readBin(db, id);
    expect(bin.photographs.map((one) => one.id).sort()).toEqual([a, b].sort());
    const bytes = await Promise.all([a, b].map(async (one) => (await assetInfo(db, (await findPhotograph(one)).assetId)).bytes));
    expect(bin.bytes).toBe(bytes[0]! + bytes[1]!);
    await changePhotographs(db, [b], { removed: false });
    expect(await names()).toEqual(['bin-b.png', 'bin-c.png']);
    // What has lain there for less than its time stays when bins are swept.
    await sweepBins(db, cache());
    expect((await readBin(db, id)).photographs).toHaveLength(1);
    await Photograph.update({ removedAt: new Date(Date.now() - 31 * 24 * 3600 * 1000) }, { where: { id: a } });
    await sweepBins(db, cache());
    await expect(findPhotograph(a)).rejects.toThrow(/does not exist/);
    await changePhotographs(db, [c], { removed: true });
    await emptyBin(db, cache(), id);
    expect(await names()).toEqual(['bin-b.png']);
    expect(await readBin(db, id)).toEqual({ photographs: [], bytes: 0 });
  });

  it('move to another shoot with the masks that their edits show, and are renamed', async () => {
    const [from, to] = [await createShoot(db, key(), 'From'), await createShoot(db, key(), 'To')];
    const photograph = await addDot(from.id, 'moves.png');
    const mask = await addMask(db, { shootId: from.id, name: 'mask.png' }, await dot('mask.png'));
    const { sha256 } = (await readShoot(db, from.id)).masks[0]!;
    const unnamed = await addMask(db, { shootId: from.id, name: 'unnamed.png', isFound: true }, await dot('unnamed.png'));
    const { document, revision } = await readDocument(db, photograph);
    const shows = after(document, (draft) => {
      draft.layers.push(adjustmentLayer('a', 'exposure', 'A'));
      draft.layers[0]!.where.parts.push({ ...maskPartKind('picture').create('p', 'add', document.photo), photograph: sha256 } as MaskPart);
    });
    for (const [i, [before, next]] of [
      [document, shows],
      [shows, document],
    ].entries())
      // prettier-ignore
      await changeDocument(db, photograph, {
        ...{ id: key(), database: await databaseId(db), base: revision + i },
        changes: [{ type: 'edit', entry: entryBetween(key(), 'Step', before!, next!) }],
      });
    // It is in the history alone by now. What nothing names goes, some time after it was made.
    await db.query("UPDATE mask_pictures SET createdAt = '2020-01-01' WHERE id IN (?)", { replacements: [[mask, unnamed]] });
    await sweepReferences(db, cache());
    expect((await readShoot(db, from.id)).masks.map(({ name }) => name)).toEqual(['mask.png']);
    await movePhotographs(db, [photograph], to.id);
    expect((await readShoot(db, from.id)).photographs).toEqual([]);
    expect((await readShoot(db, from.id)).masks).toHaveLength(1);
    const there = await readShoot(db, to.id);
    expect(there.photographs.map(({ id }) => id)).toEqual([photograph]);
    expect(there.masks).toMatchObject([{ sha256, name: 'mask.png' }]);
    await movePhotographs(db, [photograph], to.id);
    expect((await readShoot(db, to.id)).masks).toHaveLength(1);
    await renamePhotograph(db, photograph, 'Ünder water.png');
    expect((await readShoot(db, to.id)).photographs[0]!.name).toBe('Ünder water.png');
    await expect(movePhotographs(db, [photograph], 4_000_000)).rejects.toThrow(/shoot does not exist/);
  });

  it('say when and with what they were taken, and keep what their files say of themselves', async () => {
    const { id } = await createShoot(db, key(), 'Taken');
    const path = join(folder, 'taken.jpg');
    const xmp = '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"/></x:xmpmeta>';
    const exif = {
      IFD0: { Make: 'Lichtwerk', Model: 'Lichtwerk Q2' },
      IFD2: {
        DateTimeOriginal: '2026:03:14 15:09:26',
        ExposureTime: '1/125',
        FNumber: '28/10',
        ISOSpeedRatings: '400',
        FocalLength: '85/1',
      },
    };
    await sharp({ create: { width: 8, height: 8, channels: 3, background: '#456' } })
      .withExif(exif)
      .withXmp(xmp)
      .jpeg()
      .toFile(path);
    const { assetId } = await add(db, id, 'taken.jpg', path);
    expect((await readShoot(db, id)).photographs[0]).toMatchObject({
      takenAt: '2026-03-14T15:09:26',
      shotWith: { camera: 'Lichtwerk Q2', exposure: 0.008, aperture: 2.8, iso: 400, focal: 85 },
    });
    const blocks = await readMetadata(db, assetId);
    const meta = await sharp(path).metadata();
    expect([blocks.exif, blocks.xmp, blocks.iptc]).toEqual([meta.exif, meta.xmp, null]);
    expect((await readMetadata(db, 4_000_000)).exif).toBeNull();
  });
});

it('go onto sheets in the order in which they are named: pages that poppler reads, and one picture', async () => {
  const { id } = await createShoot(db, key(), 'Größe & Glaze');
  const names = Array.from({ length: 13 }, (_, i) => `vessel ${i + 1} ü.png`);
  const ids: number[] = [];
  for (const [i, name] of names.entries()) {
    ids.push(await addDot(id, name));
    const data = await sharp({ create: { width: 60, height: 40, channels: 3, background: { r: 20 * i, g: 200, b: 90 } } })
      .jpeg()
      .toBuffer();
    const lab = { l: 62.14, a: 4.2, b: -11 };
    const readings = ['A', 'B', 'C', 'D', 'E', 'F', 'G'].map((letter) => ({ letter, name: 'Glaze', lab, off: 1.26, passes: true }));
    await storePreview(db, ids[i]!, {
      revision: 1,
      data,
      light: 50,
      readings: readings.slice(0, i === 0 ? 7 : i === 1 ? 1 : 0),
      regions: [],
    });
  }
  const order = [...ids].reverse();
  const path = join(folder, 'sheet.pdf');
  const { title, shown } = await sheetContent(db, id, order);
  await writeFile(path, await sheetPdf(title, shown));
  expect(execFileSync('pdfinfo', [path], { encoding: 'utf8' })).toMatch(/Title: +Größe & Glaze[\s\S]*Pages: +2/);
  const text = execFileSync('pdftotext', ['-layout', path, '-'], { encoding: 'utf8' });
  const [first, second] = text.split('\f') as [string, string];
  expect(names.filter((name) => first.includes(name)).sort()).toEqual(names.slice(1).sort());
  expect(second).toContain('vessel 1 ü.png');
  expect(second).toContain('2 of 2');
  // Of many readings the sheet says how many more there are.
  expect(first).toContain('A 62.1 4.2 -11.0, 1.3 off, passed: Glaze');
  expect(second).toMatch(/E 62\.1 [\s\S]*and 2 more readings/);
  expect(execFileSync('pdfimages', ['-list', path], { encoding: 'utf8' }).trim().split('\n')).toHaveLength(2 + 13);

  // What is compared, on paper: a line for each photograph, as they come.
  const compared = join(folder, 'compared.pdf');
  const rows = names.map((name, i) => ({ name, preview: null, lab: { l: 60 - i, a: 4.24, b: -11 }, spread: null, off: 14 - i }));
  const more = Array.from({ length: 8 }, (_, i) => ({
    ...rows[0]!,
    name: `more ${i}`,
    off: 0.4,
    spread: { lightness: 3.3, chroma: 2, hue: 7.8 },
  }));
  const about = {
    shoot: 'Größe & Glaze',
    subject: 'Glaze',
    against: 'the middle of all',
    tolerance: 2,
    middle: { l: 50, a: 0, b: 0 },
    mean: 6.25,
  };
  await writeFile(compared, await comparisonPdf({ ...about, rows: [...rows, ...more] }));
  const pages = execFileSync('pdftotext', ['-layout', compared, '-'], { encoding: 'utf8' }).split('\f');
  expect(pages[0]).toMatch(/Größe & Glaze: Glaze[\s\S]*1 of 2[\s\S]*Against the middle of all, 50\.0 0\.0 0\.0/);
  expect(pages[0]).toContain('off by 6.3 (CIEDE2000) in the mean, 12 of 21 by more than 2');
  expect(pages[0]).toMatch(/vessel 1 ü\.png +14\.0 +60\.0 4\.2 -11\.0/);
  expect(pages[1]).toMatch(/more 7 +0\.4 +60\.0 4\.2 -11\.0 +3\.3 2\.0 7\.8°/);

  const picture = await sheetPicture(shown);
  const { data, info } = await sharp(picture).raw().toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([16 + 4 * 336, 16 + 4 * 280]);
  // The first cell is the last photograph.
  const at = (x: number, y: number): number[] => [...data.subarray((y * info.width + x) * 3, (y * info.width + x) * 3 + 3)];
  for (const [c, v] of [240, 200, 90].entries()) expect(Math.abs(at(176, 240)[c]! - v)).toBeLessThan(6);
  await expect(sheetContent(db, id, [...ids, 4_000_000])).rejects.toThrow(/is not in this shoot/);
});

describe('previews', () => {
  it('are asked for once, and an older one never takes the place of a newer', async () => {
    const photograph = await addDot((await createShoot(db, key(), 'Previews')).id, 'preview.png');
    await Job.destroy({ where: {} });
    const wanted = [{ id: photograph, revision: 1 }];
    expect(await wantPreviews(db, [...wanted, { id: 4_000_000, revision: 1 }])).toEqual([]);
    await wantPreviews(db, wanted);
    expect(await Job.count({ where: { kind: 'preview' } })).toBe(1);
    const job = (await takeJob(db, 'a', { kind: 'preview' }))!;
    expect(job.photographId).toBe(photograph);
    const store = async (transaction: Transaction): Promise<null> => {
      await storePreview(db, photograph, { revision: 1, data: Buffer.from('first'), light: null, readings: [], regions: [] }, transaction);
      return null;
    };
    expect(await endJob(db, job.id, 'a', { state: 'done', store })).toBe(true);
    expect(await Job.count({ where: { kind: 'preview' } })).toBe(0);
    expect(await wantPreviews(db, wanted)).toEqual(wanted);
    // Wanted in two states at once, the newer one is made.
    expect(await wantPreviews(db, [...wanted, { id: photograph, revision: 2 }])).toEqual(wanted);
    expect(await Job.count({ where: { kind: 'preview' } })).toBe(1);
    // One that nobody asks for again is not made.
    await wantPreviews(db, [{ id: photograph, revision: 2 }]);
    await Job.update({ createdAt: new Date(Date.now() - 60_000) }, { where: { kind: 'preview' } });
    expect(await takeJob(db, 'a', { kind: 'preview' })).toBeNull();
    expect(await Job.count({ where: { kind: 'preview' } })).toBe(0);
    await storePreview(db, photograph, { revision: 5, data: Buffer.from('new'), light: null, readings: [], regions: [] });
    await storePreview(db, photograph, { revision: 3, data: Buffer.from('old'), light: null, readings: [], regions: [] });
    expect((await readPreview(db, photograph))!.data.toString()).toBe('new');
    await storePreview(db, photograph, { revision: 6, data: Buffer.from('newer'), light: null, readings: [], regions: [] });
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

it('what regions and readings are is known of the photographs of a shoot, as far as it was measured, and with newer edits is old', async () => {
  const { id } = await createShoot(db, key(), 'Colours');
  const [a, b, mask] = [await addDot(id, 'a.png'), await addDot(id, 'b.png'), await addDot(id, 'gone.png')];
  const elsewhere = await addDot((await createShoot(db, key(), 'Elsewhere')).id, 'e.png');
  await changePhotographs(db, [mask], { removed: true });
  const lab = { l: 60, a: 20, b: 20 };
  const spread = { lightness: 1, chroma: 2, hue: 3 };
  const facts = {
    readings: [{ letter: 'A', name: 'Cheek', lab, off: null, passes: null }],
    regions: [{ name: 'Face', role: 'faceSkin' as const, lab, spread }],
  };
  await storePreview(db, a, { revision: 1, data: Buffer.from('x'), light: 50, ...facts });
  const known = await colourFacts(db, id, []);
  expect(known).toEqual([
    { photographId: a, name: 'a.png', revision: 1, isCurrent: true, ...facts },
    { photographId: b, name: 'b.png', revision: 1, isCurrent: false, readings: [], regions: [] },
  ]);
  expect((await colourFacts(db, id, [b, elsewhere])).map(({ photographId }) => photographId)).toEqual([b]);
  await DocumentRow.update({ revision: 2 }, { where: { photographId: a } });
  expect((await colourFacts(db, id, [a]))[0]).toMatchObject({ revision: 2, isCurrent: false, regions: facts.regions });
  expect((await readPreview(db, a))!.regions).toEqual(facts.regions);
});
