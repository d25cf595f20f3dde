/** Colours beyond sRGB on their way through an edit into files, in spaces and in profiles. */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import Color from 'colorjs.io';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import type { SpaceId } from '@umbo/core/base';
import { spaces, srgb } from '@umbo/core/colour';
import { adjustmentLayer, emptyDocument, type UmboDocument } from '@umbo/core/document';
import { writeTile } from '@umbo/core/render';
import { profileOf, withProof, type Press } from '@umbo/files';
import type { Pool } from '../src/pool.ts';
import { renderFile, type Rendering } from '../src/renderFile.ts';
import { perform } from '../src/tasks.ts';
import { ownFolder } from './picture.ts';

const pool = { size: 1, run: (task) => Promise.resolve(perform(task)) } as Pick<Pool, 'size' | 'run'> as Pool;
const NAMES = { srgb: 'srgb', 'display-p3': 'p3', 'a98-rgb': 'a98rgb', rec2020: 'rec2020', 'prophoto-rgb': 'prophoto' } as const;

const { folder } = ownFolder();
let n = 0;
/** The samples of a file that an edit makes of a row of colours. */
async function made(rgb: readonly number[], document: UmboDocument, options: Partial<Rendering['options']>, press: Press | null = null) {
  const full = { width: rgb.length / 3, height: 1 };
  const own = join(folder, `wide-${n++}`);
  mkdirSync(own, { recursive: true });
  const level = join(own, 'level');
  writeFileSync(level, new Uint8Array(Uint16Array.from(rgb, (v) => Math.round(v * 65535)).buffer));
  const rendering: Rendering = {
    ...{ document, full, level, pictures: [], press },
    metadata: { exif: null, xmp: null, iptc: null },
    options: { format: 'tiff', bits: 16, space: 'working', quality: 95, ...options },
  };
  return (await renderFile(rendering, own, pool, { told: () => undefined, signal: new AbortController().signal }))!;
}
const samplesOf = async (file: string): Promise<Uint16Array> => {
  const raw = await sharp(file, { ignoreIcc: true }).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer();
  return new Uint16Array(raw.buffer, raw.byteOffset, raw.byteLength / 2);
};

/** Twenty-four colours of a space that sRGB does not hold, which a turn of 30° in OKLCh does not take out of the space. */
function beyondSrgb(id: SpaceId): [number, number, number][] {
  const found: [number, number, number][] = [];
  for (let k = 0; found.length < 24 && k < 4000; k++) {
    const rgb = [0.7548776662 * k, 0.5698402909 * k, 0.4301597 * k].map((v) => v % 1) as [number, number, number];
    const colour = new Color(NAMES[id], rgb);
    if (!colour.inGamut('srgb', { epsilon: 0.02 }) && turned(id, rgb).inGamut(NAMES[id], { epsilon: -0.005 })) found.push(rgb);
  }
  return found;
}
function turned(id: SpaceId, rgb: [number, number, number]): Color {
  const colour = new Color(NAMES[id], rgb).to('oklch');
  return new Color('oklch', [colour.coords[0]!, colour.coords[1]!, (colour.coords[2]! + 30) % 360]);
}

describe.each(['display-p3', 'a98-rgb', 'rec2020', 'prophoto-rgb'] as const)('%s', (id) => {
  it('in and out with nothing edited: the same bits, and the profile of the space', async () => {
    const rgb = Array.from({ length: 300 }, (_, i) => ((i * 7919) % 65536) / 65535);
    const file = await made(rgb, emptyDocument({ width: 100, height: 1 }, id), {});
    expect([...(await samplesOf(file))]).toEqual(rgb.map((v) => Math.round(v * 65535)));
    expect(new Uint8Array((await sharp(file).metadata()).icc!)).toEqual(profileOf(spaces[id]));
  });

  it('colours that sRGB does not hold, recoloured by 30°: where they should be, and where sRGB would leave them', async () => {
    const colours = beyondSrgb(id);
    expect(colours).toHaveLength(24);
    const edit = (space: SpaceId): UmboDocument => {
      const layer = adjustmentLayer('a', 'hueSaturation', 'Turn');
      Object.assign(layer.what.settings, { hue: 30 });
      return { ...emptyDocument({ width: 24, height: 1 }, space), layers: [layer] };
    };
    const off = async (space: SpaceId): Promise<number> => {
      const came = colours.flatMap((rgb) => new Color(NAMES[id], rgb).to(NAMES[space]).coords.map((v) => Math.min(1, Math.max(0, v!))));
      const samples = await samplesOf(await made(came, edit(space), { space: id }));
      const sum = colours.reduce((total, rgb, i) => {
        const got = new Color(NAMES[id], [0, 1, 2].map((c) => samples[i * 3 + c]! / 65535) as [number, number, number]);
        return total + got.deltaE(turned(id, rgb), '2000');
      }, 0);
      return sum / colours.length;
    };
    const [wide, narrow] = [await off(id), await off('srgb')];
    console.log(`${id}: ΔE00 ${wide.toFixed(3)} in the mean; by way of sRGB ${narrow.toFixed(1)}`);
    expect(wide).toBeLessThan(0.5);
    expect(narrow).toBeGreaterThan(1.5);
  });
});

describe('a file for a press', () => {
  const icc = new Uint8Array(readFileSync(join(import.meta.dirname, '../../demo/profiles/umbo-coated.icc')));
  const press: Press = { icc, colours: 'cmyk', intent: 'relative', black: false };
  const rgb = Array.from({ length: 300 }, (_, i) => ((i * 4001) % 1024) / 1023);

  it.each(['tiff', 'jpeg'] as const)('a %s holds inks that look as the proof foresees, with the profile', async (format) => {
    const how = { intent: 'relative', black: false, paper: false } as const;
    const proofed = await withProof(icc, 'srgb', 'srgb', how, ({ shown }) => shown(Float32Array.from(rgb)));
    const file = await made(rgb, emptyDocument({ width: 100, height: 1 }), { format, bits: 8, quality: 100 }, press);
    const meta = await sharp(file).metadata();
    expect(meta).toMatchObject({ format, space: 'cmyk', channels: 4, width: 100 });
    expect(new Uint8Array(meta.icc!)).toEqual(icc);
    // The inks by the profile's own account: the image library's LittleCMS brings them back.
    const looks = await sharp(file).raw().toBuffer();
    let off = 0;
    for (let i = 0; i < 100; i++) {
      const wanted = proofed.slice(i * 3, i * 3 + 3).map((v) => Math.min(1, Math.max(0, v)));
      const got = [0, 1, 2].map((c) => looks[i * 3 + c]! / 255);
      off +=
        new Color('srgb', got as [number, number, number]).deltaE(new Color('srgb', [...wanted] as [number, number, number]), '2000') / 100;
    }
    expect(off).toBeLessThan(format === 'tiff' ? 1.5 : 3);
  });

  it('8 bits that are dithered keep in the mean what lies between two steps', async () => {
    const level = 100.37 / 255;
    const document = emptyDocument({ width: 4000, height: 1 });
    const flat = Array.from({ length: 12_000 }, () => level);
    const read = async (dither: boolean): Promise<Buffer> =>
      sharp(await made(flat, document, { format: 'png', bits: 8, space: 'srgb', dither }))
        .raw()
        .toBuffer();
    const mean = (bytes: Buffer): number => bytes.reduce((sum, v) => sum + v, 0) / bytes.length;
    expect(mean(await read(false))).toBe(100);
    const dithered = await read(true);
    expect(mean(dithered)).toBeCloseTo(100.37, 1);
    // Triangular noise of two steps: nothing further off.
    expect(new Set(dithered)).toEqual(new Set([99, 100, 101]));
    // What 8 bits hold leaves as it came: each of the 256 values, from 16 bits and back.
    const held = Float32Array.from({ length: 256 * 64 }, (_, i) => Math.fround(((i % 256) * 257) / 65535));
    const tile = { x: 0, y: 0, width: 256, height: 64 };
    const out = new Uint8Array(held.length * 3);
    writeTile(tile, { r: held.slice(), g: held.slice(), b: held.slice() }, [srgb, srgb], tile, out, true);
    expect(out.every((v, i) => v === Math.floor(i / 3) % 256)).toBe(true);
  });
});
