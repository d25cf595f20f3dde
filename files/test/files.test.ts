/** Files as they should not be, and colours as standards define them. */
import { readdirSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { deflateSync, gzipSync } from 'node:zlib';
import Color from 'colorjs.io';
import sharp from 'sharp';
import { describe, expect, inject, it } from 'vitest';
import { spaces } from '@umbo/core/colour';
import { Problem } from '@umbo/core/base';
import { profileOf as profileFor, type DecodeHow } from '@umbo/files';
import { png, profileChunk, profileOf, SPACES, tiff, type TiffPage } from './files';
import { cache, decodeAll, type Pixels } from './decodeAll';

let files = 0;
async function decodeBytes(bytes: Uint8Array, how: DecodeHow = {}): Promise<Pixels> {
  const path = join(inject('folder'), `bytes-${files++}`);
  await writeFile(path, bytes);
  return decodeAll(path, how);
}
async function refused(bytes: Uint8Array, words: RegExp, what = ''): Promise<void> {
  const error = await decodeBytes(bytes).then(
    () => null,
    (e: unknown) => e,
  );
  expect(error, `${what} was taken`).toBeInstanceOf(Problem);
  expect((error as Problem).kind).toBe('refused');
  expect((error as Problem).message).toMatch(words);
  expect(readdirSync(join(cache(), 'scratch')).filter((name) => name.endsWith('.v'))).toEqual([]);
}

const size = { width: 120, height: 80 };
const noise = Buffer.from(Array.from({ length: size.width * size.height * 3 }, (_, i) => (i * 7919 + ((i * i) % 251) * 31) % 256));
const page: TiffPage = { ...size, photometric: 2, samples: 3, pixels: noise };
const image = () => sharp(noise, { raw: { ...size, channels: 3 } });

describe('what is not all there is refused in every format, and what is sound is not', () => {
  const deflated = { ...page, packed: deflateSync(noise), compression: 8 };
  const sound = async (): Promise<[string, Buffer][]> => [
    ['plain TIFF', tiff([page])],
    ['deflated TIFF', tiff([deflated])],
    ['tiled TIFF', await image().tiff({ compression: 'lzw', tile: true, tileWidth: 64, tileHeight: 64 }).toBuffer()],
    ['TIFF in a JPEG strip', await image().tiff({ compression: 'jpeg' }).toBuffer()],
    ['JPEG', await image().jpeg().toBuffer()],
    ['progressive JPEG', await image().jpeg({ progressive: true }).toBuffer()],
    ['PNG', await image().png().toBuffer()],
    ['interlaced PNG', await image().png({ progressive: true }).toBuffer()],
    ['WebP', await image().webp().toBuffer()],
    ['AVIF', await image().avif().toBuffer()],
  ];
  it('cut anywhere', async () => {
    for (const [name, bytes] of await sound()) {
      expect((await decodeBytes(bytes)).width, name).toBe(size.width);
      for (const share of [0.02, 0.1, 0.4, 0.75, 0.97])
        await refused(
          bytes.subarray(0, Math.floor(bytes.length * share)),
          /damaged|cut short|not an image|empty|colours/,
          `${name} cut to ${share}`,
        );
    }
  });
  it('damaged where a checksum tells', async () => {
    for (const at of [0.5, 0.7, 0.9]) {
      const spoiled = tiff([deflated]);
      const offset = Math.floor(spoiled.length * at);
      spoiled[offset] = spoiled[offset]! ^ 0xff;
      await refused(spoiled, /damaged/, `TIFF damaged at ${at}`);
    }
  });
  it('headers that promise more than follows', async () => {
    await refused(tiff([{ ...page, width: 14_000, height: 14_000 }]), /damaged/);
    await refused(tiff([{ ...page, height: 100_000 }]), /damaged/);
    await refused(tiff([{ ...deflated, height: 9000 }]), /damaged/);
    await refused(tiff([page], 8), /damaged/); // a directory that points to itself
    const jpeg = await image().jpeg().toBuffer();
    const frame = jpeg.indexOf(Buffer.from([0xff, 0xc0]));
    jpeg.writeUInt16BE(14_000, frame + 5);
    jpeg.writeUInt16BE(14_000, frame + 7);
    await refused(jpeg, /damaged/);
  });
  it('formats that are not photographs, before anything parses them', async () => {
    const svg = '<svg xmlns="http://www.w3.org/2000/svg">' + '<rect/>'.repeat(900_000);
    const before = process.memoryUsage.rss();
    await refused(gzipSync(svg), /Compressed files are not read/);
    expect(process.memoryUsage.rss() - before).toBeLessThan(300e6);
    const own = join(inject('folder'), 'own.v');
    await sharp(noise, { raw: { ...size, channels: 3 } }).toFile(own);
    await expect(decodeAll(own)).rejects.toThrow(/not an image/);
    await refused(Buffer.from('%PDF-1.7 and so on'), /PDF files are not read/);
  });
});

describe('TIFF', () => {
  it('the first full page is the photograph, not its small copy', async () => {
    const small: TiffPage = { ...page, width: 12, height: 8, pixels: noise.subarray(0, 12 * 8 * 3), subfile: 1 };
    const { width, height, pixels } = await decodeBytes(tiff([small, page, small]));
    expect([width, height]).toEqual([size.width, size.height]);
    expect(pixels).toEqual(Uint16Array.from(noise, (v) => v * 257));
  });
  it('what is not read is called by its name', async () => {
    await refused(tiff([{ ...page, photometric: 8 }]), /CIELab colours/);
    const five = Buffer.alloc(size.width * size.height * 5, 99);
    await refused(
      tiff([{ ...page, samples: 5, pixels: five, extraSamples: [0, 0] }]),
      /2 channels beside its colours, such as spot colours/,
    );
    await refused(tiff([{ ...page, photometric: 32803, samples: 1, pixels: noise.subarray(0, size.width * size.height) }]), /raw file/);
  });
});

it('what is transparent lies on true white, with 16 bits and with 8', async () => {
  const wide = Uint16Array.from([1000, 30_000, 65_535, 0, 1000, 30_000, 65_535, 32_768, 1000, 30_000, 65_535, 65_535]);
  const { pixels } = await decodeBytes(
    await sharp(wide, { raw: { width: 3, height: 1, channels: 4 } })
      .toColourspace('rgb16')
      .png()
      .toBuffer(),
  );
  // W3C Compositing, section 9.1.4, over opaque white.
  const over = (v: number, a: number): number => Math.round((v * a + 65_535 * (65_535 - a)) / 65_535);
  expect([...pixels]).toEqual([0, 32_768, 65_535].flatMap((a) => [1000, 30_000, 65_535].map((v) => over(v, a))));
  const narrow = await sharp(Buffer.from([9, 99, 199, 0]), { raw: { width: 1, height: 1, channels: 4 } })
    .png()
    .toBuffer();
  expect([...(await decodeBytes(narrow)).pixels]).toEqual([65_535, 65_535, 65_535]);
});

describe('colours', () => {
  const n = 48;
  const random = Uint16Array.from({ length: n * n * 3 }, (_, i) => (i * 40_503 + ((i * i) % 8191) * 7) % 65_536);
  /** The largest difference to CSS Color 4's formulas, as colorjs.io has them, in steps of 8 bits. */
  const worst = (pixels: Uint16Array, space: string): number => {
    let most = 0;
    for (let i = 0; i < random.length; i += 3) {
      const { coords } = new Color(space, [random[i]! / 65_535, random[i + 1]! / 65_535, random[i + 2]! / 65_535]).to('srgb');
      for (let c = 0; c < 3; c++) most = Math.max(most, Math.abs(Math.max(0, Math.min(1, coords[c]!)) * 255 - pixels[i + c]! / 257));
    }
    return most;
  };
  const OURS = { p3: 'display-p3', a98rgb: 'a98-rgb', prophoto: 'prophoto-rgb' } as const;
  it.each(['p3', 'a98rgb', 'prophoto'] as const)(
    'a file in %s keeps every bit, and comes into sRGB within a tenth of a step',
    async (space) => {
      const file = png(n, n, random, [profileChunk(profileOf(SPACES[space]))]);
      const own = await decodeBytes(file);
      expect([own.profile, own.space]).toEqual(['test', OURS[space]]);
      expect(own.pixels).toEqual(random);
      expect(worst((await decodeBytes(file, { space: 'srgb' })).pixels, space)).toBeLessThan(0.1);
    },
  );
  it('what has other primaries comes into the smallest space that holds it; what says nothing, or something wrong, can be told', async () => {
    // Between P3 and Rec. 2020 in green, beyond A98 in red: no smaller space than Rec. 2020 holds it.
    const { white, curve } = SPACES.p3;
    const between = profileOf({ white, primaries: [[0.69, 0.31], [0.2, 0.74], [0.15, 0.055]], curve }); // prettier-ignore
    expect((await decodeBytes(png(n, n, random, [profileChunk(between)]))).space).toBe('rec2020');
    const within = profileOf({ white, primaries: [[0.62, 0.335], [0.3, 0.58], [0.155, 0.07]], curve }); // prettier-ignore
    expect((await decodeBytes(png(n, n, random, [profileChunk(within)]))).space).toBe('srgb');
    const told = await decodeBytes(png(n, n, random, [profileChunk(within)]), { readAs: 'a98-rgb' });
    expect([told.space, told.profile]).toEqual(['a98-rgb', 'A98 RGB']);
    expect(told.pixels).toEqual(random);
    const turned = await decodeBytes(png(n, n, random), { readAs: 'a98-rgb', space: 'srgb' });
    expect(worst(turned.pixels, 'a98rgb')).toBeLessThan(0.1);
  });
  it('inks come by their profile into a space that holds them: in sRGB what libvips makes of them, and what sRGB does not hold is there', async () => {
    const press = join(import.meta.dirname, '../../demo/profiles/umbo-coated.icc');
    // Cyan and yellow, of which sRGB does not hold all: written over those of a file of one colour.
    const plain = sharp({ create: { width: n, height: n, channels: 3, background: '#46586a' } })
      .withIccProfile(press)
      .toColourspace('cmyk');
    const file = await plain.tiff({ compression: 'none' }).toBuffer();
    const inks = await sharp(file).pipelineColourspace('cmyk').toColourspace('cmyk').raw().toBuffer();
    expect(inks).toHaveLength(n * n * 4);
    const at = file.indexOf(inks);
    expect(at).toBeGreaterThan(0);
    for (let i = 0; i < inks.length; i++) file[at + i] = i % 2 === 1 ? 0 : random[i % random.length]! >> 8;
    expect(await sharp(file).metadata()).toMatchObject({ space: 'cmyk', channels: 4 });
    const own = await decodeBytes(file);
    expect([own.profile, own.space]).toEqual(['Umbo made-up coated', 'rec2020']);
    const libvips = await sharp(file).toColourspace('srgb').raw().toBuffer();
    let [outside, sum, inside] = [0, 0, 0];
    for (let i = 0; i < own.pixels.length; i += 3) {
      const rgb2020 = [own.pixels[i]! / 65_535, own.pixels[i + 1]! / 65_535, own.pixels[i + 2]! / 65_535] as const;
      const colour = new Color('rec2020', [...rgb2020]).to('srgb');
      if (colour.coords.some((v) => v! < -0.01 || v! > 1.01)) outside++;
      else {
        sum += colour.deltaE(new Color('srgb', [libvips[i]! / 255, libvips[i + 1]! / 255, libvips[i + 2]! / 255]), '2000');
        inside++;
      }
    }
    expect(sum / inside).toBeLessThan(0.5);
    expect(outside / (outside + inside)).toBeGreaterThan(0.1);
    // Asked for in sRGB, as edits made before: the decoder's own way.
    const before = await decodeBytes(file, { space: 'srgb' });
    expect(Buffer.from(before.pixels.map((v) => v >> 8)).equals(libvips)).toBe(true);
  });
  it.each(Object.values(spaces))(
    'the profile that is made of $name is known again, and says what LittleCMS and CSS Color 4 say',
    async (space) => {
      const file = png(n, n, random, [profileChunk(profileFor(space))]);
      const own = await decodeBytes(file);
      expect([own.profile, own.space]).toEqual([space.name, space.id]);
      expect(own.pixels).toEqual(random);
      // Through LittleCMS into a space that holds it all: colorjs.io, which is independent of both, within 2 of 65535.
      const wide = await decodeBytes(file, { space: 'prophoto-rgb' });
      const name = { srgb: 'srgb', 'display-p3': 'p3', 'a98-rgb': 'a98rgb', rec2020: 'rec2020', 'prophoto-rgb': 'prophoto' }[space.id];
      let [most, sum] = [0, 0];
      for (let i = 0; i < random.length; i += 3) {
        const { coords } = new Color(name, [random[i]! / 65_535, random[i + 1]! / 65_535, random[i + 2]! / 65_535]).to('prophoto');
        for (let c = 0; c < 3; c++) {
          const off = Math.abs(Math.max(0, Math.min(1, coords[c]!)) * 65_535 - wide.pixels[i + c]!);
          sum += off;
          most = Math.max(most, off);
        }
      }
      expect({ mean: sum / random.length < 2, most: most < 40 }).toEqual({ mean: true, most: true });
    },
  );
  it('code points, and gamma with chromaticities, are converted as the PNG specification says', async () => {
    const byCodePoints = await decodeBytes(png(n, n, random, [['cICP', Buffer.from([12, 13, 0, 1])]]));
    expect([byCodePoints.profile, byCodePoints.space]).toEqual(['Display P3', 'display-p3']);
    expect(byCodePoints.pixels).toEqual(random);
    const chrm = Buffer.alloc(32);
    const { white, primaries } = SPACES.a98rgb;
    [white, ...primaries].flat().forEach((v, i) => chrm.writeUInt32BE(Math.round(v * 100_000), i * 4));
    const gama = Buffer.alloc(4);
    gama.writeUInt32BE(Math.round((256 / 563) * 100_000));
    const byNumbers = await decodeBytes(
      png(n, n, random, [
        ['gAMA', gama],
        ['cHRM', chrm],
      ]),
      { space: 'srgb' },
    );
    expect(worst(byNumbers.pixels, 'a98rgb')).toBeLessThan(0.1);
    const plain = await decodeBytes(png(n, n, random, [['cICP', Buffer.from([1, 13, 0, 1])], profileChunk(profileOf(SPACES.prophoto))]));
    expect(plain.pixels).toEqual(random); // code points go before a profile, and these say sRGB
    await refused(png(n, n, random, [['cICP', Buffer.from([9, 16, 0, 1])]]), /high dynamic range/);
  });
  it('floats are light: sRGB where it holds them, Rec. 2020 where they are negative, white where they are brighter', async () => {
    const floats = (values: readonly number[], samples: 1 | 3): Buffer =>
      tiff([{ width: 4, height: values.length / samples / 4, photometric: samples === 3 ? 2 : 1, samples, bits: 32, format: 3, pixels: Buffer.from(Float32Array.from(values).buffer) }]); // prettier-ignore
    const inside = [0, 0.5, 1, 0.2, 0.2, 0.2, 1.5, 0.1, 0.001, 1, 1, 1];
    const plain = await decodeBytes(floats(inside, 3));
    expect([plain.space, plain.bits]).toEqual(['srgb', 16]);
    for (const [i, v] of inside.entries()) {
      const wanted = new Color('srgb-linear', [Math.min(1, v), 0, 0]).to('srgb').coords[0]!;
      expect(Math.abs(plain.pixels[i]! / 65_535 - wanted)).toBeLessThan(1e-4);
    }
    const wide = await decodeBytes(floats([-0.2, 0.9, 0.1, 0.3, 0.3, 0.3, 0.9, -0.05, 0.1, 0, 0, 0], 3));
    expect(wide.space).toBe('rec2020');
    const green = new Color('srgb-linear', [-0.2, 0.9, 0.1]).to('rec2020').coords;
    for (const [c, v] of green.entries()) expect(Math.abs(wide.pixels[c]! / 65_535 - Math.max(0, v!))).toBeLessThan(1e-4);
    const grey = await decodeBytes(floats([0, 0.25, 0.5, 1], 1));
    expect([...grey.pixels.subarray(3, 6)]).toEqual(
      Array(3).fill(Math.round(new Color('srgb-linear', [0.25, 0, 0]).to('srgb').coords[0]! * 65_535)),
    );
  });
  it('no profile spoils what comes after it, and none leaves memory behind', async () => {
    const sound = png(n, n, random, [profileChunk(profileOf(SPACES.p3))]);
    const first = await decodeBytes(sound);
    for (const spoiled of [
      Buffer.alloc(16 << 20, 7),
      Buffer.concat([profileOf(SPACES.p3), Buffer.alloc(16 << 20)]),
      profileOf(SPACES.p3).subarray(0, 200),
    ])
      expect((await decodeBytes(png(n, n, random, [profileChunk(spoiled)]))).pixels).toHaveLength(random.length);
    expect((await decodeBytes(sound)).pixels).toEqual(first.pixels);
    const small = png(2, 2, random.subarray(0, 12), [profileChunk(profileOf(SPACES.a98rgb))]);
    const heap = (): number => process.memoryUsage().arrayBuffers;
    await decodeBytes(small);
    const before = heap();
    for (let i = 0; i < 150; i++) await decodeBytes(small);
    expect(heap() - before).toBeLessThan(8e6); // 150 transforms that are kept take 30 MB
  });
});
