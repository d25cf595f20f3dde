/** What render threads do, and the file it goes into. */
import { appendFileSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { AdjustmentContent } from '@umbo/core/adjust';
import { createRaster, noPictures, spreadRows, wholeOf, type Rect } from '@umbo/core/base';
import { factsOf, sampleAnew } from '@umbo/core/carry';
import {
  adjustmentLayer,
  emptyDocument,
  everywhere,
  findLayer,
  groupLayer,
  type FoundBySolver,
  type Layer,
  type Reading,
  type UmboDocument,
} from '@umbo/core/document';
import { srgb } from '@umbo/core/colour';
import { maskPartKind, type EllipsePart, type LikenessPart } from '@umbo/core/mask';
import { filterLayers, filterReach } from '@umbo/core/render';
import { findAnew, readingPlace, type ReadingPlace } from '@umbo/core/solve';
import { regionColours } from '@umbo/core/warnings';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { profileOf } from '@umbo/files';
import { divide } from '../src/divide.ts';
import { PLAIN_HEADER, plainHeader, plainTail } from '../src/plainPicture.ts';
import { reasonOf } from '../src/reason.ts';
import { perform, type FoundAnew } from '../src/tasks.ts';
import { edited, full, ownFolder, rows, whole } from './picture.ts';

const { folder, level } = ownFolder();

/** In both directions, in no order. */
const parts = [40, 0, 20, 60].flatMap((y) =>
  [37, 0, 74].map((x) => ({ x, y, width: Math.min(37, full.width - x), height: Math.min(20, full.height - y) })),
);

describe('parts', () => {
  it.each([8, 16] as const)(
    'of %i bits, in any order, make the file that the whole makes; libvips reads it with its profile',
    async (bits) => {
      const document = edited();
      const profile = profileOf(srgb);
      const out = join(folder, `out-${bits}.v`);
      writeFileSync(out, plainHeader(full, bits));
      for (const part of parts)
        perform({
          type: 'part',
          document,
          full,
          level,
          pictures: [],
          filtered: [],
          part,
          bits,
          space: 'srgb',
          out,
          offset: PLAIN_HEADER,
        });
      const expected = whole(document, bits);
      expect(Buffer.compare(readFileSync(out).subarray(PLAIN_HEADER), Buffer.from(expected.buffer))).toBe(0);
      appendFileSync(out, plainTail({ icc: profile, exif: null, xmp: null, iptc: null }));

      const meta = await sharp(out).metadata();
      expect(meta).toMatchObject({ format: 'vips', ...full, channels: 3, depth: bits === 8 ? 'uchar' : 'ushort' });
      expect(Buffer.compare(meta.icc!, Buffer.from(profile))).toBe(0);
      const read = await sharp(out, { ignoreIcc: true })
        .toColourspace(bits === 8 ? 'srgb' : 'rgb16')
        .raw({ depth: bits === 8 ? 'uchar' : 'ushort' })
        .toBuffer();
      expect(Buffer.compare(read, Buffer.from(expected.buffer))).toBe(0);
    },
  );

  it('with layers that look around, each found for itself, make what all at once make', () => {
    const inGroup = groupLayer('g', 'g');
    const hue = edited().layers[0]!;
    const layerOf = (kind: AdjustmentContent['kind'], settings: object): Layer => {
      const layer = adjustmentLayer(kind, kind, kind);
      Object.assign(layer.what.settings, settings);
      return layer;
    };
    const blur = layerOf('gaussianBlur', { radius: 4 });
    blur.where = structuredClone(hue.where);
    Object.assign(inGroup.what, { layers: [layerOf('haze', { amount: 60 }), blur] });
    Object.assign(inGroup.how, { mode: 'multiply', opacity: 0.5 });
    const document = {
      ...emptyDocument(full),
      layers: [layerOf('localContrast', { fine: 40, broad: 60 }), hue, inGroup, layerOf('glow', {})],
    };
    // Each gets a pass of its own in a large picture; of near ones, the last does not.
    const large = { width: 6000, height: 4000 };
    expect(filterLayers(document, { picture: large, full: large }).map(({ id }) => id)).toEqual([
      'localContrast',
      'haze',
      'gaussianBlur',
      'glow',
    ]);
    expect(filterLayers({ ...document, layers: [hue, blur] }, { picture: large, full: large })).toEqual([]);

    const rowsOf = { document, full, level, pictures: [] };
    const filtered: { id: string; file: string }[] = [];
    for (const id of ['localContrast', 'haze', 'gaussianBlur', 'glow']) {
      const file = join(folder, `${id}.planes`);
      writeFileSync(file, '');
      const reach = filterReach(findLayer(document, id)!.what, { picture: full, full });
      for (const part of parts) perform({ ...rowsOf, type: 'filter', layer: { id, reach }, part, filtered: [...filtered], out: file });
      filtered.push({ id, file });
    }
    const out = join(folder, 'passes.rgb16');
    writeFileSync(out, '');
    for (const part of parts) perform({ ...rowsOf, type: 'part', part, filtered, bits: 16, space: 'srgb', out, offset: 0 });
    expect(Buffer.compare(readFileSync(out), Buffer.from(whole(document, 16).buffer))).toBe(0);
  });

  it('a level that is cut short is an error, not a picture', () => {
    const short = join(folder, 'short.rgb16');
    writeFileSync(short, new Uint8Array(100));
    const task = {
      type: 'part',
      document: edited(),
      full,
      level: short,
      part: wholeOf(full),
      bits: 8,
      space: 'srgb',
      out: short,
      offset: 0,
    } as const;
    expect(() => perform({ ...task, pictures: [], filtered: [] })).toThrow(/shorter/);
  });

  it('cover every pixel once, and stay within the memory of a job, margins included, however large the picture', () => {
    const megabyte = 2 ** 20;
    for (const [width, height] of [
      [600, 400],
      [6000, 4000],
      [12_000, 8400],
      [30_000, 900],
    ] as const)
      for (const reach of [0, 60, 400, 800])
        for (const bytes of [80, 250]) {
          const { parts: made, lanes } = divide({ width, height }, { reach, turned: 0, bytes }, 4, 1024 * megabyte);
          expect(made.reduce((sum, part) => sum + part.width * part.height, 0)).toBe(width * height);
          const [first, last] = [made[0]!, made.at(-1)!];
          expect([first.x, first.y, last.x + last.width, last.y + last.height]).toEqual([0, 0, width, height]);
          const largest = Math.max(
            ...made.map((part) => Math.min(width, part.width + 2 * reach) * Math.min(height, part.height + 2 * reach)),
          );
          expect(largest * bytes * lanes).toBeLessThan(1024 * megabyte);
        }
  });

  it('a full disk is an error at the first byte that has no place, and said as it is', () => {
    const task = { document: emptyDocument(full), full, level, pictures: [], filtered: [], bits: 8 as const };
    let error: unknown;
    try {
      perform({ ...task, type: 'part', part: parts[0]!, space: 'srgb', out: '/dev/full', offset: 0 });
    } catch (thrown) {
      error = thrown;
    }
    expect(reasonOf(error)).toMatch(/^The disk .* is full/);
  });
});

it('a preview shows the edit at its size', () => {
  const size = { width: 45, height: 35 };
  const plain = perform({
    type: 'preview',
    document: emptyDocument(full),
    full,
    level,
    pictures: [],
    levelSize: full,
    size,
  }) as Uint8Array;
  const changed = perform({ type: 'preview', document: edited(), full, level, pictures: [], levelSize: full, size }) as Uint8Array;
  expect(plain).toHaveLength(45 * 35 * 3);
  let differ = 0;
  for (let i = 0; i < plain.length; i++) if (plain[i] !== changed[i]) differ++;
  expect(differ).toBeGreaterThan(100);
});

it('looks an edit over as core does: facts, colours taken anew, and what regions are', () => {
  const where = { ...everywhere(), parts: [maskPartKind<EllipsePart>('ellipse').create('e', 'add', full)] };
  const taken = { ...maskPartKind<LikenessPart>('likeness').create('l', 'add', full), sampled: 'r' };
  const tuned = adjustmentLayer('b', 'exposure', 'b');
  tuned.where.parts.push(taken);
  const document: UmboDocument = { ...edited(), regions: [{ id: 'r', name: 'R', where }] };
  document.layers.push(tuned);
  const task = { type: 'overview' as const, document, full, level, levelSize: full, pictures: [] };
  const photograph = createRaster(wholeOf(full));
  spreadRows(rows, photograph, 0);
  const scale = { picture: full, full };
  expect(perform({ ...task, look: 'facts', owners: ['a', 'r'] })).toEqual(factsOf(document, scale, photograph, noPictures, ['a', 'r']));
  expect(perform({ ...task, look: 'regions', owners: [] })).toEqual(regionColours(document, scale, photograph, noPictures));
  const anew = perform({ ...task, look: 'sample anew', owners: ['b'] }) as UmboDocument;
  expect(anew).toEqual(sampleAnew(document, scale, photograph, noPictures, ['b']));
  expect((anew.layers[1]!.where.parts[0] as LikenessPart).colours.length).toBeGreaterThan(0);
});

it('finds settings anew as core does, from the levels in their files', () => {
  const tuned = adjustmentLayer('b', 'exposure', 'b');
  tuned.foundBy = { kind: 'solver', turned: 'settings', readings: [{ id: 'r', aim: { kind: 'colour', lab: { l: 55, a: 0, b: 0 } } }] };
  const balanced = adjustmentLayer('c', 'whiteBalance', 'c');
  balanced.foundBy = { kind: 'measurement', measurement: 'firstCorrection' };
  const spot = { x: 40, y: 30, side: 31 } as const;
  const document: UmboDocument = { ...edited(), readings: [{ id: 'r', letter: 'A', name: 'A', spot }] };
  document.layers.push(tuned, balanced);
  const photograph = createRaster(wholeOf(full));
  spreadRows(rows, photograph, 0);
  const place = (area: Rect): ReadingPlace => ({ scale: { picture: full, full }, area, photograph, pictures: noPictures });
  const places = {
    reading: (_: UmboDocument, reading: Reading) => place(readingPlace(reading, full).area),
    whole: () => place(wholeOf(full)),
  };
  // A small photograph is its own overview.
  const found = perform({ type: 'anew', document, full, pictures: [], levels: [level], layers: ['b', 'c'] }) as FoundAnew;
  expect(found).toEqual(findAnew(document, ['b', 'c'], places, () => undefined));
  expect(found.answered.map(({ problem }) => problem)).toEqual([null, null]);
  const [, exposure, balance] = found.document.layers;
  expect(exposure!.what.settings).not.toEqual(tuned.what.settings);
  expect((exposure!.foundBy as FoundBySolver).off).toBeCloseTo(found.answered[0]!.reached[0]!.after, 2);
  expect(balance!.what.settings).not.toEqual(balanced.what.settings);
  // What is not asked for stays.
  const one = perform({ type: 'anew', document, full, pictures: [], levels: [level], layers: ['c'] }) as FoundAnew;
  expect(one.document.layers[1]).toEqual(tuned);
});
