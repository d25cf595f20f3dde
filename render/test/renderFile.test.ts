/** An edit becomes a file without a job or a database. */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { adjustmentLayer, emptyDocument } from '@umbo/core/document';
import sharp from 'sharp';
import { beforeEach, describe, expect, it } from 'vitest';
import { divide, fitsMemory } from '../src/divide.ts';
import type { Pool } from '../src/pool.ts';
import { renderFile, type Rendering } from '../src/renderFile.ts';
import { perform } from '../src/tasks.ts';
import { edited, full, ownFolder, whole } from './picture.ts';

const { folder, level } = ownFolder();
/** Threads that are none. */
const pool = { size: 2, run: (task) => Promise.resolve(perform(task)) } as Pick<Pool, 'size' | 'run'> as Pool;
const rendering = (options: Partial<Rendering['options']>, document = edited()): Rendering => ({
  document,
  full,
  level,
  pictures: [],
  metadata: { exif: null, xmp: null, iptc: null },
  press: null,
  options: { format: 'tiff', bits: 16, space: 'srgb', quality: 90, ...options },
});
let own = '';
let n = 0;
beforeEach(() => mkdirSync((own = join(folder, `file-${n++}`))));

it.each([
  ['tiff', 16],
  ['png', 16],
  ['png', 8],
] as const)(
  'a %s of %i bits holds the pixels that rendering all at once gives, with what is done told on the way',
  async (format, bits) => {
    const shares: number[] = [];
    const file = await renderFile(rendering({ format, bits }), own, pool, {
      told: (share) => shares.push(share),
      signal: new AbortController().signal,
    });
    const image = sharp(file!, { ignoreIcc: true });
    expect(await image.metadata()).toMatchObject({ format, ...full, depth: bits === 8 ? 'uchar' : 'ushort', hasProfile: true });
    const raw = await image
      .toColourspace(bits === 8 ? 'srgb' : 'rgb16')
      .raw({ depth: bits === 8 ? 'uchar' : 'ushort' })
      .toBuffer();
    expect(Buffer.compare(raw, Buffer.from(whole(edited(), bits).buffer))).toBe(0);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.at(-1)).toBeCloseTo(0.8);
  },
);

it('layers that look around are told as shares of the whole, too', async () => {
  const shares: number[] = [];
  const blur = (id: string) => {
    const layer = adjustmentLayer(id, 'gaussianBlur', id);
    Object.assign(layer.what.settings, { radius: 50 });
    return layer;
  };
  const document = { ...emptyDocument(full), layers: [blur('a'), blur('b')] };
  await renderFile(rendering({ format: 'jpeg', bits: 8 }, document), own, pool, {
    told: (share) => shares.push(share),
    signal: new AbortController().signal,
  });
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
  expect(shares.at(-1)).toBeCloseTo(0.8);
  expect(new Set(shares).size).toBeGreaterThanOrEqual(3);
});

it('what is not wanted any more ends at the next part', async () => {
  let parts = 0;
  const ended = new AbortController();
  const counting = { ...pool, run: (task) => (parts++ === 0 && ended.abort(), pool.run(task)) } as Pool;
  const file = await renderFile(rendering({}), own, counting, { told: () => undefined, signal: ended.signal });
  expect(file).toBeNull();
  expect(parts).toBeLessThanOrEqual(2);
});

it('wide margins are worked on by fewer threads in larger parts where that is faster, and what does not fit is not held', () => {
  const large = { width: 12_000, height: 8400 };
  const timeOf = ({ parts, lanes }: ReturnType<typeof divide>, reach: number): number =>
    parts.reduce(
      (sum, { width, height }) => sum + Math.min(large.width, width + 2 * reach) * Math.min(large.height, height + 2 * reach),
      0,
    ) / lanes;
  for (const reach of [0, 60, 450, 900]) {
    const both = divide(large, { reach, turned: 0, bytes: 100 }, 2);
    expect(timeOf(both, reach)).toBeLessThanOrEqual(timeOf(divide(large, { reach, turned: 0, bytes: 100 }, 1), reach) * 1.1);
    expect(Math.max(...both.parts.map(({ width }) => width))).toBeLessThanOrEqual(large.width);
  }
  expect(divide(large, { reach: 0, turned: 0, bytes: 100 }, 2).parts[0]!.width).toBe(large.width);
  expect(fitsMemory({ width: 6000, height: 4000 }, 12.5)).toBe(true);
  expect(fitsMemory(large, 12.5)).toBe(false);
});

describe('a file for somebody', () => {
  const made = async (options: Partial<Rendering['options']>, more: Partial<Rendering> = {}): Promise<Buffer> => {
    const file = await renderFile({ ...rendering({ format: 'png', bits: 8, ...options }), ...more }, own, pool, {
      told: () => undefined,
      signal: new AbortController().signal,
    });
    return readFileSync(file!);
  };

  it('has the size that is asked for, and is not made larger than it is', async () => {
    const sizeOf = async (size: Rendering['options']['size']): Promise<[number, number]> => {
      const { width, height } = await sharp(await made({ size: size! })).metadata();
      return [width, height];
    };
    expect(await sizeOf({ kind: 'long', pixels: 45 })).toEqual([45, 35]);
    expect(await sizeOf({ kind: 'long', pixels: 4500 })).toEqual([90, 70]);
    expect(await sizeOf({ kind: 'percent', percent: 50 })).toEqual([45, 35]);
    expect(await sizeOf({ kind: 'exact', width: 30, height: 60 })).toEqual([30, 60]);
  });

  it('keeps its pixels in every format that keeps pixels, and comes near them in the others', async () => {
    const smooth = join(folder, 'smooth.rgb16');
    const samples = Uint16Array.from({ length: full.width * full.height * 3 }, (_, i) => (60 + (Math.floor(i / 3) % full.width)) * 257);
    writeFileSync(smooth, new Uint8Array(samples.buffer));
    const shown = { level: smooth, document: emptyDocument(full) };
    for (const format of ['jpeg', 'webp', 'avif'] as const) {
      const meta = await sharp(await made({ format, quality: 95 }, shown)).metadata();
      expect(meta).toMatchObject({ format: format === 'avif' ? 'heif' : format, ...full, depth: 'uchar' });
      const { data } = await sharp(await made({ format, quality: 95 }, shown), { ignoreIcc: true })
        .raw()
        .toBuffer({ resolveWithObject: true });
      let sum = 0;
      for (let i = 0; i < samples.length; i++) sum += Math.abs(data[i]! - samples[i]! / 257);
      expect(sum / samples.length, format).toBeLessThan(1.5);
    }
  });

  it('is at most as large as it may be, at the best quality for that, or says that it cannot be', async () => {
    const free = (await made({ format: 'jpeg', quality: 95 })).length;
    const atMost = Math.round(free * 0.4) / 1000;
    const bytes = await made({ format: 'jpeg', quality: 95, atMost });
    expect(bytes.length).toBeLessThanOrEqual(atMost * 1000);
    expect(bytes.length).toBeGreaterThan(atMost * 850);
    await expect(made({ format: 'jpeg', quality: 95, atMost: 0.1 })).rejects.toThrow('cannot be made as small as 0.1 kB');
  });

  it.each([
    ['screen', 0.05, 0.16],
    ['print', 0.2, 0.35],
  ] as const)('sharpened for %s overshoots at an edge by %f to %f of it, and not in flat places', async (sharpen, least, most) => {
    const edge = join(folder, `edge-${sharpen}.rgb16`);
    const samples = Uint16Array.from(
      { length: full.width * full.height * 3 },
      (_, i) => (Math.floor(i / 3) % full.width < 45 ? 80 : 176) * 257,
    );
    writeFileSync(edge, new Uint8Array(samples.buffer));
    const { data } = await sharp(await made({ sharpen }, { level: edge, document: emptyDocument(full) }))
      .raw()
      .toBuffer({ resolveWithObject: true });
    const row = Array.from({ length: full.width }, (_, x) => data[(35 * full.width + x) * 3]!);
    const over = (Math.max(...row) - 176) / 96;
    console.log(
      `sharpened for ${sharpen}: overshoot ${(over * 100).toFixed(0)} %, undershoot ${(((80 - Math.min(...row)) / 96) * 100).toFixed(0)} %`,
    );
    expect(over).toBeGreaterThan(least);
    expect(over).toBeLessThan(most);
    expect([row[5], row[84]]).toEqual([80, 176]);
  });
});
