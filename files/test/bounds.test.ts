/** What is bounded whatever files hold, and pixels that stay as long as something reads them. */
import { mkdir, mkdtemp, open, readdir, readFile, rm, stat, utimes, writeFile, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { arePixelsGone, levelFile, levelsAreThere, readLevelRows, shrinkCache } from '@umbo/files';
import { takenOf } from '../src/read/cameraFacts.ts';
import { writeLevels } from '../src/cache/levels.ts';
import { isRawTiff, photographPage } from '../src/read/tiffPages.ts';
import { directory } from '../../tools/hostileFiles.mjs';

let folder: string;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), 'umbo-bounds-'))));
afterAll(() => rm(folder, { recursive: true, force: true }));

const header = Buffer.from([0x49, 0x49, 42, 0, 8, 0, 0, 0]);

describe('readers of foreign files', () => {
  it('read no more of a TIFF’s directories than any picture needs, however often they name the same', async () => {
    const values = 1 << 20;
    const bombs = [
      // The same array again and again; and in pages that are chained.
      directory(Array.from({ length: 3000 }, () => [273, 4, values, 65_536] as const)),
      directory(Array.from({ length: 400 }, (_, i) => [[273, 279, 324, 325, 330, 258][i % 6]!, 4, values, 65_536] as const)),
    ];
    for (const [i, bomb] of bombs.entries()) {
      const path = join(folder, `bomb-${i}.tif`);
      await writeFile(path, Buffer.concat([header, bomb, Buffer.alloc(65_536 - 8 - bomb.length), Buffer.alloc(values * 4)]));
      const file = await open(path);
      let read = 0;
      const counting = {
        read: (into: Buffer, from: number, length: number, at: number) => ((read += length), file.read(into, from, length, at)),
      } as unknown as FileHandle;
      const { size } = await file.stat();
      await expect(photographPage(counting, size)).rejects.toThrow(/damaged/);
      expect(await isRawTiff(counting, size)).toBe(false);
      // Twice as many values as the highest photograph has strips, of four bytes each, for each of the two.
      expect(read).toBeLessThan(2 * (2 * values * 4 + 200_000));
      await file.close();
    }
  });

  it('read of EXIF what they want, once, and nothing that is longer than any camera writes', () => {
    const many = directory([
      ...Array.from({ length: 3000 }, () => [0x010f, 2, 900_000, 65_536] as const),
      [0x0110, 2, 4, 0x0041_3251], // "Q2A" and a zero
    ]);
    const block = Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), header, many, Buffer.alloc(1 << 20, 0x41)]);
    // The model stands behind a thousand entries: further nobody looks.
    expect(takenOf(block)).toEqual({ takenAt: null, shotWith: {} });
    const few = Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), header, directory([[0x010f, 2, 900_000, 65_536], [0x0110, 2, 4, 0x0041_3251]]), Buffer.alloc(1 << 20, 0x41)]); // prettier-ignore
    expect(takenOf(few)).toEqual({ takenAt: null, shotWith: { camera: 'Q2A' } });
  });
});

describe('pixels', () => {
  const of = (letter: string) => ({ sha256: letter.repeat(64), space: 'srgb' as const });
  const full = { width: 4, height: 4 };
  async function keep(cache: string, letter: string, minutes: number, bytes = 4 * 4 * 6): Promise<string> {
    const file = levelFile(cache, of(letter), 0);
    await mkdir(dirname(file), { recursive: true });
    await writeFile(file, Buffer.alloc(bytes));
    const then = new Date(Date.now() - minutes * 60_000);
    await utimes(dirname(dirname(file)), then, then);
    return file;
  }

  it('that something reads are not forgotten, however small the cache is to be; others are, the longest unused first', async () => {
    const cache = join(folder, 'shrinks');
    const [old, inWork, fresh] = [await keep(cache, 'a', 90), await keep(cache, 'b', 100), await keep(cache, 'c', 50)];
    // A hand-over begins: it looks whether all is there, and reads band by band.
    expect(await levelsAreThere(cache, of('b'), full)).toBe(true);
    await readLevelRows(inWork, 4, 0, 2);
    await shrinkCache(cache, 100);
    const there = async (file: string): Promise<boolean> => stat(file).then(() => true, () => false); // prettier-ignore
    expect(await Promise.all([old, inWork, fresh].map(there))).toEqual([false, true, false]);
    const error: unknown = await readLevelRows(old, 4, 0, 2).catch((problem: unknown) => problem);
    expect([arePixelsGone(error), String(error)]).toEqual([true, expect.not.stringContaining(cache)]);
  });

  it('that are whole are never taken away by whoever makes them again; what is cut gives way', async () => {
    const cache = join(folder, 'made');
    const picture = (value: number) => ({ ...full, bits: 8 as const, profile: '', space: 'srgb' as const, takenAt: null, shotWith: {}, blocks: { exif: null, xmp: null, iptc: null }, async *strips() { yield new Uint16Array(48).fill(value); } }); // prettier-ignore
    await writeLevels(cache, of('d'), picture(1));
    const reader = await open(levelFile(cache, of('d'), 0));
    const { ino } = await reader.stat();
    await Promise.all([writeLevels(cache, of('d'), picture(2)), writeLevels(cache, of('d'), picture(3))]);
    expect((await stat(levelFile(cache, of('d'), 0))).ino).toBe(ino);
    await reader.close();
    await writeFile(levelFile(cache, of('d'), 0), '');
    await writeLevels(cache, of('d'), picture(4));
    expect((await readFile(levelFile(cache, of('d'), 0))).readUInt16LE(0)).toBe(4);
    expect(await readdir(join(cache, 'scratch'))).toEqual([]);
  });
});
