/** ICC profiles of a shoot, and proofs, against LittleCMS's own proofing transform. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  BYTES_SH,
  CHANNELS_SH,
  cmsFLAGS_BLACKPOINTCOMPENSATION,
  cmsFLAGS_NOCACHE,
  cmsFLAGS_NOOPTIMIZE,
  cmsFLAGS_SOFTPROOFING,
  COLORSPACE_SH,
  FLOAT_SH,
  instantiate,
  PT_RGB,
} from 'lcms-wasm';
import sharp from 'sharp';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import { throughLut } from '@umbo/core/adjust';
import { converter, displayable } from 'culori';
import { createRaster, wholeOf, noPictures } from '@umbo/core/base';
import { deltaE2000, gamutOf, rgbToLab, spaces, srgb } from '@umbo/core/colour';
import { emptyDocument, scaleOf } from '@umbo/core/document';
import { measurement } from '@umbo/core/measure';
import { renderRegion } from '@umbo/core/render';
import { addProfile, connect, createShoot, listProfiles, migrate, queueHandOver, removeProfile, type Database } from '@umbo/data';
import { PROOF_SIDE, profileOf, proofTables, withProof } from '@umbo/files';
import { add, addPlain, key } from './helper';

const press = (name: string): Uint8Array => new Uint8Array(readFileSync(join(import.meta.dirname, `../../demo/profiles/${name}.icc`)));
let db: Database;
let shootId: number;
beforeAll(async () => {
  db = connect(inject('databaseUrl'));
  await migrate(db);
  shootId = (await createShoot(db, key(), 'Profiles')).id;
});

describe('profiles of a shoot', () => {
  it('are judged by their content, kept once, and taken away', async () => {
    const coated = await addProfile(db, key(), shootId, press('umbo-coated'));
    expect(coated).toMatchObject({ name: 'Umbo made-up coated', colours: 'cmyk' });
    expect(await addProfile(db, key(), shootId, press('umbo-coated'))).toEqual(coated);
    const p3 = await addProfile(db, key(), shootId, profileOf(spaces['display-p3']));
    expect(p3).toMatchObject({ name: 'Display P3', colours: 'rgb' });
    expect((await listProfiles(shootId)).map(({ id }) => id)).toEqual([coated.id, p3.id]);
    for (const bytes of [new Uint8Array(0), Buffer.from('acsp is not enough'), press('umbo-coated').subarray(0, 300)])
      await expect(addProfile(db, key(), shootId, bytes)).rejects.toMatchObject({ kind: 'refused' });
    await expect(addProfile(db, key(), shootId, new Uint8Array(9 << 20))).rejects.toThrow(/8 MB/);
    await removeProfile(p3.id);
    await expect(removeProfile(p3.id)).rejects.toMatchObject({ kind: 'not-found' });
  });

  it('come with the files that bring one, where it is none of our spaces', async () => {
    const { id } = await createShoot(db, key(), 'Brought along');
    const image = (background: string) => sharp({ create: { width: 8, height: 8, channels: 3, background } });
    const path = (name: string): string => join(inject('folder'), name);
    const coated = join(import.meta.dirname, '../../demo/profiles/umbo-coated.icc');
    await image('#345').withIccProfile(coated).toColourspace('cmyk').tiff().toFile(path('inks.tif'));
    writeFileSync(path('p3.icc'), profileOf(spaces['display-p3']));
    await image('#678').withIccProfile(path('p3.icc')).png().toFile(path('p3.png'));
    for (const name of ['inks.tif', 'p3.png', 'inks.tif']) await add(db, id, name, path(name));
    expect((await listProfiles(id)).map(({ name, colours }) => [name, colours])).toEqual([['Umbo made-up coated', 'cmyk']]);
  });

  it('go into files that can hold their colours only', async () => {
    const { id } = (await listProfiles(shootId))[0]!;
    const photograph = await addPlain(db, shootId, 'for-a-press.png');
    const wanted = { fileName: 'x', quality: 90, space: 'srgb' as const, profile: { id, intent: 'relative' as const, black: true } };
    await expect(queueHandOver(db, key(), photograph, { ...wanted, format: 'png', bits: 8 })).rejects.toThrow(/PNG files do not hold them/);
    await expect(queueHandOver(db, key(), photograph, { ...wanted, format: 'tiff', bits: 16 })).rejects.toThrow(/8 bits/);
    expect(await queueHandOver(db, key(), photograph, { ...wanted, format: 'tiff', bits: 8 })).toHaveLength(1);
  });
});

/** ΔE00 from which a colour counts as out: what the way to inks and back changes by itself is less. */
const OUT_FROM = 2;

describe('a proof', () => {
  const N = 4000;
  /** Evenly spread and the same in every run: the R3 sequence of M. Roberts (2018). */
  const random = Float32Array.from(
    { length: N * 3 },
    (_, i) => ((Math.floor(i / 3) + 1) * [0.8191725134, 0.6710436067, 0.5497004779][i % 3]!) % 1,
  );
  const FLOATS = (space: number): number => FLOAT_SH(1) | COLORSPACE_SH(space) | CHANNELS_SH(3) | BYTES_SH(4);

  it.each(['umbo-coated', 'umbo-uncoated'])(
    'through %s is within 1 ΔE00 of LittleCMS, and decides as it does away from the edge',
    async (name) => {
      const cms = await instantiate();
      const open = (icc: Uint8Array): number => {
        const at = cms._malloc(icc.length);
        cms.HEAPU8.set(icc, at);
        return cms.ccall('cmsOpenProfileFromMem', 'number', ['number', 'number'], [at, icc.length]);
      };
      const [work, screen, paper] = [open(profileOf(spaces['display-p3'])), open(profileOf(srgb)), open(press(name))];
      const flags = cmsFLAGS_SOFTPROOFING | cmsFLAGS_BLACKPOINTCOMPENSATION | cmsFLAGS_NOCACHE | cmsFLAGS_NOOPTIMIZE;
      const own = cms.cmsCreateProofingTransform(work, FLOATS(PT_RGB), screen, FLOATS(PT_RGB), paper, 1, 1, flags);
      const wanted = cms.cmsDoTransform(own, random, N);
      const how = { intent: 'relative', black: true, paper: false } as const;
      const tables = await proofTables(press(name), 'display-p3', 'srgb', how);
      const points = PROOF_SIDE ** 3;
      const planesOf = (rgb: Float32Array) => ({
        r: Float32Array.from({ length: N }, (_, i) => rgb[i * 3]!),
        g: Float32Array.from({ length: N }, (_, i) => rgb[i * 3 + 1]!),
        b: Float32Array.from({ length: N }, (_, i) => rgb[i * 3 + 2]!),
      });
      const got = planesOf(random);
      throughLut(got, N, { size: PROOF_SIDE, min: [0, 0, 0], max: [1, 1, 1], values: tables.slice(0, points * 3) });
      const held = (v: number): number => Math.min(1, Math.max(0, v));
      const off = Array.from({ length: N }, (_, i) =>
        deltaE2000(
          rgbToLab(srgb, held(got.r[i]!), held(got.g[i]!), held(got.b[i]!)),
          rgbToLab(srgb, held(wanted[i * 3]!), held(wanted[i * 3 + 1]!), held(wanted[i * 3 + 2]!)),
        ),
      ).sort((a, b) => a - b);
      console.log(
        `${name}: ΔE00 ${(off.reduce((s, v) => s + v, 0) / N).toFixed(3)} in the mean, 99 % under ${off[Math.floor(N * 0.99)]!.toFixed(2)}`,
      );
      expect(off[Math.floor(N * 0.99)]).toBeLessThan(1);

      // Its gamut check, cmsFLAGS_GAMUTCHECK of lcms2.h: in floats -1 is its alarm. It is itself a table, of 23 points for inks (cmsgmt.c, from
      // memory), so that near the edge it is an estimate: those are the colours about which the exact rule is not of one mind within a cell.
      const alarm = cms.cmsCreateProofingTransform(work, FLOATS(PT_RGB), screen, FLOATS(PT_RGB), paper, 1, 1, flags | 0x1000);
      const alarmed = cms.cmsDoTransform(alarm, random, N);
      const moved = (by: readonly number[]): Float32Array => random.map((v, i) => held(v + by[i % 3]! / 22));
      const around = [-1, 0, 1].flatMap((x) => [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((z) => [x, y, z] as const)));
      const decisions = await withProof(press(name), 'display-p3', 'srgb', how, ({ beyond }) =>
        around.map((by) => beyond(moved(by)).map((v) => Number(v > OUT_FROM))),
      );
      let [agree, clear, all] = [0, 0, 0];
      for (let i = 0; i < N; i++) {
        const own = decisions[13]![i] === 1;
        const same = alarmed[i * 3]! < -0.5 === own;
        if (same) all++;
        if (!decisions.every((one) => (one[i] === 1) === own)) continue;
        clear++;
        if (same) agree++;
      }
      const percent = (v: number, of: number): string => `${((v / of) * 100).toFixed(1)} %`;
      console.log(
        `${name}: of decisions ${percent(all, N)} agree; of the ${percent(clear, N)} away from the edge ${percent(agree, clear)}`,
      );
      expect(agree / clear).toBeGreaterThan(0.99);
      expect(all / N).toBeGreaterThan(0.9);
    },
  );

  it('shows white as the paper is where that is wanted, and leaves what a display holds as it is', async () => {
    const how = { intent: 'relative', black: true, paper: false } as const;
    const white = Float32Array.of(1, 1, 1, 0.5, 0.5, 0.5);
    const shown = (icc: Uint8Array, paper: boolean) => withProof(icc, 'srgb', 'srgb', { ...how, paper }, (proof) => proof.shown(white));
    const [plain, onPaper] = [await shown(press('umbo-uncoated'), false), await shown(press('umbo-uncoated'), true)];
    expect(Math.min(...plain.slice(0, 3))).toBeGreaterThan(0.99);
    // The paper is a little blue.
    expect(onPaper[2]! - onPaper[0]!).toBeGreaterThan(0.03);
    // A display of three curves and a matrix shows nothing beyond itself: a green of P3 comes back as the nearest that sRGB has.
    const green = Float32Array.of(0, 1, 0, 0.5, 0.4, 0.45);
    const [beyond, seen] = await withProof(profileOf(srgb), 'display-p3', 'display-p3', how, (proof) => [
      proof.beyond(green),
      proof.shown(green),
    ]);
    expect(beyond[0]).toBeGreaterThan(2);
    expect(beyond[1]).toBeLessThan(0.1);
    expect(seen[0]).toBeGreaterThan(0.3);
    expect([...(await shown(profileOf(srgb), false))].map((v) => Math.round(v * 100) / 100)).toEqual([1, 1, 1, 0.5, 0.5, 0.5]);
  });
});

describe('bringing into gamut', () => {
  const toOklch = converter('oklch');
  const toRgb = converter('rgb');
  /** Colours of middle lightness in all hues, some of them far out: of 4096 those that sRGB holds. */
  const colours = Array.from({ length: 4096 }, (_, i) =>
    toRgb({ mode: 'oklch', l: 0.4 + 0.4 * ((i * 0.7548776662) % 1), c: 0.24 * ((i * 0.569840291) % 1), h: (i * 137.50776) % 360 }),
  ).filter(displayable);

  it.each(['umbo-coated', 'umbo-uncoated'])('%s: nothing is out by LittleCMS itself, and hues stay within 2°', async (name) => {
    const how = { intent: 'relative', black: false, paper: false } as const;
    const beyond = (await proofTables(press(name), 'srgb', 'srgb', how)).slice(PROOF_SIDE ** 3 * 3);
    const size = { width: colours.length, height: 1 };
    const picture = createRaster(wholeOf(size));
    for (const plane of ['r', 'g', 'b'] as const) for (const [i, rgb] of colours.entries()) picture[plane][i] = rgb[plane] * 65535 + 0.5;
    const document = emptyDocument(size);
    const scale = scaleOf(document, size);
    const gamut = gamutOf(name, 'srgb', PROOF_SIDE, beyond);
    const { measure, layers } = measurement('intoGamut');
    const found = measure({ gamut, from: 3 }, { picture, weight: null, scale });
    expect(found.before).toBeGreaterThan(0.1);
    expect(found.after).toBe(0);
    let n = 0;
    const edit = { ...document, layers: layers!(found, () => `new ${n++}`) };
    const after = new Float32Array(colours.length * 3);
    renderRegion(edit, scale, picture.area, picture, noPictures, (tile, pixels) => {
      for (let x = 0; x < tile.width; x++) after.set([pixels.r[x]!, pixels.g[x]!, pixels.b[x]!], (tile.x + x) * 3);
    });
    const [was, is] = await withProof(press(name), 'srgb', 'srgb', how, (proof) => [
      proof.beyond(Float32Array.from(colours.flatMap(({ r, g, b }) => [r, g, b]))),
      proof.beyond(after),
    ]);
    const out = (values: Float32Array): number => values.filter((v) => v > 3).length / values.length;
    console.log(
      `${name}: ${(out(was) * 100).toFixed(1)} % out before, ${(out(is) * 100).toFixed(2)} % after; saturation ${found.saturation}, lightness ${found.lightness}, full at ${found.full}`,
    );
    expect(out(was)).toBeGreaterThan(0.1);
    expect(out(is)).toBe(0);
    for (const [i, rgb] of colours.entries()) {
      const [a, b] = [toOklch(rgb), toOklch({ mode: 'rgb', r: after[i * 3]!, g: after[i * 3 + 1]!, b: after[i * 3 + 2]! })];
      if (a.c > 0.03 && b.c > 0.03) expect(Math.abs(((b.h! - a.h! + 540) % 360) - 180)).toBeLessThan(2.1);
    }
  });
});
