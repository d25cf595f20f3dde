import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readFile, rm, truncate, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import Color from 'colorjs.io';
import sharp from 'sharp';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import { Problem } from '@umbo/core/base';
import { connect, createShoot, ensureLevels, migrate, Photograph, readAsset, changePhotographs, emptyBin, type Database } from '@umbo/data';
import { levelFile, profileOf, readLevelRows, type DecodeHow } from '@umbo/files';
import { spaces, srgb } from '@umbo/core/colour';
import { decodeAll, type Pixels } from '../../files/test/decodeAll';
import { add as addFile, cache as cacheFolder, key } from './helper';
import { QueryTypes } from 'sequelize';

const folder = inject('folder');
const cache = cacheFolder();
let db: Database;
let shootId: number;

beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
  shootId = (await createShoot(db, key(), 'Test')).id;
});

const size = { width: 40, height: 30 };
const samples = Uint16Array.from({ length: size.width * size.height * 3 }, (_, i) => (i * 9973) % 65536);
const picture = () => sharp(samples, { raw: { ...size, channels: 3 } }).toColourspace('rgb16');
let files = 0;
async function file(content: Uint8Array | string): Promise<string> {
  const path = join(folder, `file-${files++}`);
  await writeFile(path, content);
  return path;
}
const add = async (content: Uint8Array | string, name = 'photo'): Promise<Photograph> => addFile(db, shootId, name, await file(content));
const rows = async (content: Uint8Array, how: DecodeHow = {}): Promise<Pixels> => decodeAll(await file(content), how);
const count = async (table: string): Promise<number> =>
  (await db.query<{ n: number }>(`SELECT COUNT(*) n FROM ${table}`, { type: QueryTypes.SELECT }))[0]!.n;

describe('what comes in is what was in the file', () => {
  it('16-bit PNG and TIFF: every bit', async () => {
    for (const bytes of [await picture().png().toBuffer(), await picture().tiff({ compression: 'lzw' }).toBuffer()]) {
      const { bits, pixels, profile } = await rows(bytes);
      expect({ bits, profile }).toEqual({ bits: 16, profile: 'sRGB' });
      expect(pixels).toEqual(samples);
    }
  });

  it('8-bit files: times 257, so that white is white', async () => {
    const eight = Uint8Array.from(samples, (v) => v >> 8);
    const image = () => sharp(eight, { raw: { ...size, channels: 3 } });
    for (const bytes of [
      await image().png().toBuffer(),
      await image().tiff({ compression: 'lzw' }).toBuffer(),
      await image().webp({ lossless: true }).toBuffer(),
    ]) {
      const { bits, pixels } = await rows(bytes);
      expect(bits).toBe(8);
      expect(pixels).toEqual(Uint16Array.from(eight, (v) => v * 257));
    }
    const grey = await rows(
      await sharp(eight.slice(0, 1200), { raw: { ...size, channels: 1 } })
        .png()
        .toBuffer(),
    );
    expect([...grey.pixels.slice(0, 3)]).toEqual([eight[0]! * 257, eight[0]! * 257, eight[0]! * 257]);
    for (const lossy of [await image().jpeg({ quality: 100 }).toBuffer(), await image().avif({ quality: 90 }).toBuffer()])
      expect((await rows(lossy)).pixels).toHaveLength(samples.length);
  });

  it('EXIF orientation is honoured', async () => {
    const eight = Uint8Array.from(samples, (v) => v >> 8);
    const turned = await rows(
      await sharp(eight, { raw: { ...size, channels: 3 } })
        .withMetadata({ orientation: 6 })
        .png()
        .toBuffer(),
    );
    expect([turned.width, turned.height]).toEqual([size.height, size.width]);
    // Orientation 6: the first row is the right-hand column, so the top left pixel comes from the bottom left (EXIF 2.3, table 6).
    const bottomLeft = (size.height - 1) * size.width * 3;
    expect([...turned.pixels.slice(0, 3)]).toEqual([...eight.slice(bottomLeft, bottomLeft + 3)].map((v) => v * 257));
  });

  it('embedded profiles are converted as colorjs.io and the LittleCMS in libvips convert them, 16 bits staying 16', async () => {
    const p3 = Buffer.from(profileOf(spaces['display-p3']));
    expect(p3.length).toBeGreaterThan(300);
    const tagged = await picture().withIccProfile('p3').png().toBuffer();
    const { bits, pixels, profile } = await rows(tagged, { space: 'srgb' });
    expect(bits).toBe(16);
    expect(profile).toMatch(/P3/i);
    const stored = await sharp(tagged, { ignoreIcc: true }).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer();
    const p3Samples = new Uint16Array(stored.buffer, stored.byteOffset, samples.length);
    const eight = await sharp(Buffer.from(Uint8Array.from(p3Samples, (v) => v >> 8)), { raw: { ...size, channels: 3 } })
      .png()
      .toBuffer();
    const eightTagged = await withProfile(eight, p3);
    const byLibvips = await sharp(eightTagged).raw().toBuffer();
    const byUs = (await rows(eightTagged, { space: 'srgb' })).pixels;
    let worstLibvips = 0;
    let sumLibvips = 0;
    let worstColor = 0;
    for (let i = 0; i < samples.length; i += 3) {
      const expected = new Color('p3', [p3Samples[i]! / 65535, p3Samples[i + 1]! / 65535, p3Samples[i + 2]! / 65535]).to('srgb').coords;
      for (let c = 0; c < 3; c++) {
        worstColor = Math.max(worstColor, Math.abs(Math.max(0, Math.min(1, expected[c]!)) - pixels[i + c]! / 65535));
        const step = Math.abs(byLibvips[i + c]! - byUs[i + c]! / 257);
        worstLibvips = Math.max(worstLibvips, step);
        sumLibvips += step;
      }
    }
    // This profile is a compact one: its curve is sampled at few points, which alone is up to 2 steps of 8 bits.
    expect(worstColor).toBeLessThan(2.5 / 255);
    expect(worstLibvips).toBeLessThan(2.5);
    expect(sumLibvips / samples.length).toBeLessThan(0.5); // libvips rounds to whole steps, which alone is a quarter on average
  });

  it('a profile that is sRGB already leaves every bit alone, and a broken one is left aside', async () => {
    const eight = await sharp(
      Uint8Array.from(samples, (v) => v >> 8),
      { raw: { ...size, channels: 3 } },
    )
      .png()
      .toBuffer();
    const known = await rows(await withProfile(eight, Buffer.from(profileOf(srgb))));
    expect(known.pixels).toEqual(Uint16Array.from(samples, (v) => (v >> 8) * 257));
    expect((await rows(await withProfile(eight, Buffer.alloc(200, 7)))).pixels).toEqual(known.pixels);
  });

  it('keeps the original byte for byte, makes the pyramid again when it is thrown away, and stores equal files once', async () => {
    const before = [await count('assets'), await count('asset_chunks')];
    const bytes = await picture().png().toBuffer();
    const [first, second] = [await add(bytes, 'one'), await add(bytes, 'two')];
    expect(second.assetId).toBe(first.assetId);
    const hash = createHash('sha256');
    for await (const chunk of readAsset(db, first.assetId)) hash.update(chunk);
    expect(hash.digest('hex')).toBe(createHash('sha256').update(bytes).digest('hex'));
    await rm(cache, { recursive: true });
    const of = await ensureLevels(db, cache, first.assetId, size, { space: 'srgb' });
    const level = await readLevelRows(levelFile(cache, of, 0), size.width, 0, size.height);
    expect(new Uint16Array(level.buffer)).toEqual(samples);
    // A level that is gone, or cut short by a power cut, is made again as well.
    for (const spoil of [rm(levelFile(cache, of, 1), { force: true }), truncate(levelFile(cache, of, 0), 100)]) {
      await spoil;
      await ensureLevels(db, cache, first.assetId, size, { space: 'srgb' });
      const whole = await readLevelRows(levelFile(cache, of, 0), size.width, 0, size.height);
      expect(new Uint16Array(whole.buffer)).toEqual(samples);
    }
    const away = async (id: number): Promise<void> => {
      await changePhotographs(db, [id], { removed: true });
      await emptyBin(db, cache, first.shootId);
    };
    await away(first.id);
    expect(existsSync(levelFile(cache, of, 0))).toBe(true);
    await away(second.id);
    expect(existsSync(levelFile(cache, of, 0))).toBe(false);
    expect([await count('assets'), await count('asset_chunks')]).toEqual(before);
  });
});

/** A PNG with an iCCP chunk (PNG 1.2, section 11.3.3.3) put in by hand, so that no library converts anything. */
async function withProfile(png: Buffer, profile: Buffer): Promise<Buffer> {
  const { crc32, deflateSync } = await import('node:zlib');
  const data = Buffer.concat([Buffer.from('test\0\0', 'latin1'), deflateSync(profile)]);
  const body = Buffer.concat([Buffer.from('iCCP'), data]);
  const chunk = Buffer.alloc(body.length + 8);
  chunk.writeUInt32BE(data.length);
  body.copy(chunk, 4);
  chunk.writeUInt32BE(crc32(body), body.length + 4);
  const afterHeader = 8 + 25;
  return Buffer.concat([png.subarray(0, afterHeader), chunk, png.subarray(afterHeader)]);
}

describe('files that are refused leave nothing behind', () => {
  const refused = async (content: Uint8Array | string, words: RegExp): Promise<void> => {
    const before = [await count('photographs'), await count('assets'), await count('asset_chunks'), await count('documents')];
    const error = await add(content).then(
      () => null,
      (e: unknown) => e,
    );
    expect(error).toBeInstanceOf(Problem);
    expect((error as Problem).kind).toBe('refused');
    expect((error as Problem).message).toMatch(words);
    expect([await count('photographs'), await count('assets'), await count('asset_chunks'), await count('documents')]).toEqual(before);
  };

  it('empty, text, scripts, foreign formats', async () => {
    await refused('', /empty/);
    await refused(
      '<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>',
      /text/,
    );
    await refused('#!/bin/sh\necho hello\n', /text/);
    await refused(Buffer.concat([Buffer.from([0xff, 0xd8, 0xff, 0xe0]), Buffer.from('<script>alert(1)</script>')]), /not an image|damaged/);
    await refused(await picture().gif().toBuffer(), /GIF files are not read/);
    await refused(Buffer.from(Array.from({ length: 4000 }, (_, i) => (i * 31) % 256)), /not an image/);
  });

  it('cut short', async () => {
    const big = sharp({
      create: { width: 600, height: 400, channels: 3, background: '#888', noise: { type: 'gaussian', mean: 128, sigma: 40 } },
    });
    for (const bytes of [await big.clone().jpeg().toBuffer(), await big.clone().png().toBuffer(), await big.clone().tiff().toBuffer()])
      await refused(bytes.subarray(0, Math.floor(bytes.length * 0.6)), /damaged|not an image/);
  });

  it('over 200 megapixels, told by the header alone', async () => {
    const png = await sharp({ create: { width: 16, height: 16, channels: 3, background: '#fff' } })
      .png()
      .toBuffer();
    const { crc32 } = await import('node:zlib');
    png.writeUInt32BE(30000, 16);
    png.writeUInt32BE(20000, 20);
    png.writeUInt32BE(crc32(png.subarray(12, 29)), 29);
    await refused(png, /600 megapixels.*200/);
  });

  it('a shoot that is gone, a cancelled import', async () => {
    const path = await file(await picture().png().toBuffer());
    const before = await count('assets');
    await expect(addFile(db, 999999, 'x', path)).rejects.toThrow(/does not exist/);
    expect(await count('assets')).toBe(before);
    expect((await readFile(path)).length).toBeGreaterThan(0);
  });
});

it('a file that goes away while it is read breaks off, and is never taken for whole', async () => {
  const noise = { type: 'gaussian', mean: 128, sigma: 60 } as const;
  const bytes = await sharp({ create: { width: 1100, height: 800, channels: 3, background: '#000', noise } })
    .png()
    .toBuffer();
  const { assetId } = await add(bytes);
  const read = readAsset(db, assetId);
  expect((await read.next()).done).toBe(false);
  await db.query(`DELETE FROM asset_chunks WHERE assetId = ${assetId} AND seq > 0`);
  await expect(read.next()).rejects.toThrow('removed while it was read');
});
