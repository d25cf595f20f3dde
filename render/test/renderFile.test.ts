/** An edit becomes a file without a job or a database. */
import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { adjustmentLayer, emptyDocument } from '@umbo/core/document';
import sharp from 'sharp';
import { afterAll, beforeEach, expect, it } from 'vitest';
import { divide, fitsMemory } from '../src/divide.ts';
import type { Pool } from '../src/pool.ts';
import { renderFile, type Rendering } from '../src/renderFile.ts';
import { perform } from '../src/tasks.ts';
import { edited, folder, full, level, whole } from './picture.ts';

/** Threads that are none. */
const pool = { size: 2, run: (task) => Promise.resolve(perform(task)) } as Pick<Pool, 'size' | 'run'> as Pool;
const rendering = (options: Partial<Rendering['options']>, document = edited()): Rendering => ({
  document,
  full,
  level,
  pictures: [],
  options: { format: 'tiff', bits: 16, space: 'srgb', quality: 90, ...options },
});
let own = '';
let n = 0;
beforeEach(() => mkdirSync((own = join(folder, `file-${n++}`))));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it.each([
  ['tiff', 16],
  ['png', 16],
  ['png', 8],
] as const)(
  'a %s of %i bits holds the pixels that rendering all at once gives, with what is done told on the way',
  async (format, bits) => {
    const shares: number[] = [];
    const file = await renderFile(rendering({ format, bits }), own, pool, { told: (share) => shares.push(share), wanted: () => true });
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
    wanted: () => true,
  });
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
  expect(shares.at(-1)).toBeCloseTo(0.8);
  expect(new Set(shares).size).toBeGreaterThanOrEqual(3);
});

it('what is not wanted any more ends at the next part', async () => {
  let parts = 0;
  const wanted = (): boolean => parts < 1;
  const file = await renderFile(rendering({}), own, { ...pool, run: (task) => (parts++, pool.run(task)) } as Pool, {
    told: () => undefined,
    wanted,
  });
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
    const both = divide(large, reach, 100, 2);
    expect(timeOf(both, reach)).toBeLessThanOrEqual(timeOf(divide(large, reach, 100, 1), reach) * 1.1);
    expect(Math.max(...both.parts.map(({ width }) => width))).toBeLessThanOrEqual(large.width);
  }
  expect(divide(large, 0, 100, 2).parts[0]!.width).toBe(large.width);
  expect(fitsMemory({ width: 6000, height: 4000 }, 12.5)).toBe(true);
  expect(fitsMemory(large, 12.5)).toBe(false);
});
