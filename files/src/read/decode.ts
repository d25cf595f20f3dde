/**
 * From an image file to 16-bit pixels of a working space, strip by strip. Files are hostile: everything is checked by content, and no photograph is
 * ever in memory as a whole.
 */
import { randomUUID } from 'node:crypto';
import { type FileHandle, mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { setImmediate as breathe } from 'node:timers/promises';
import { isMainThread } from 'node:worker_threads';
import { cleanName, shorten, unit, type SpaceId, Problem } from '@umbo/core/base';
import { encode, matrixBetween, matrixTo, smallestHolding, spaces } from '@umbo/core/colour';
import sharp, { type Metadata } from 'sharp';
import { takenOf, type Taken } from './cameraFacts.ts';
import { profileConverter, type Convert, type ProfileConverter } from '../colour/icc.ts';
import { blocksOf, type MetadataBlocks } from './metadataBlocks.ts';
import { pngStatement, type ColourStatement } from './pngColour.ts';
import { beginsAsRaw, develop, isRaw } from './raw.ts';
import { sniff, withFile, type PhotographFormat } from './sniff.ts';
import { photographPage } from './tiffPages.ts';

export const MEGAPIXEL_LIMIT = 200;

// Whatever the image library can open besides is never tried. Its own format is that of pictures between rendering and encoding; what is
// imported is told by its content before. This holds for the whole process: a thread that did it again would shut what others are opening.
if (isMainThread) {
  sharp.block({ operation: ['VipsForeignLoad'] });
  sharp.unblock({ operation: ['Jpeg', 'Png', 'Tiff', 'Webp', 'Heif', 'Vips'].map((name) => `VipsForeignLoad${name}`) });
}

/** Fewest bits that JPEG spends on a block of 8 × 8 pixels. */
const JPEG_BITS = 1;

/** Whole numbers of 8, 16 and 32 bits, and 32-bit floats. */
const DEPTHS: readonly string[] = ['uchar', 'ushort', 'uint', 'float'];

const DAMAGED = 'The file is damaged or cut short: its pixels cannot be read to the end.';

interface Inspected {
  format: PhotographFormat;
  meta: Metadata;
  /** Of a TIFF: the page that is the photograph. */
  page: number;
  /** What a PNG says of its colours beside a profile. */
  statement: ColourStatement | 'sRGB' | null;
}

/**
 * Looks at a file without decoding it.
 * @throws Problem 'refused' with a sentence that names the reason
 */
async function inspect(path: string): Promise<Inspected> {
  return withFile(path, async (file, size) => {
    const format = await sniff(file);
    const page = format === 'tiff' ? await photographPage(file, size) : 0;
    let meta: Metadata;
    try {
      meta = await sharp(path, { limitInputPixels: false, failOn: 'none', page }).metadata();
    } catch {
      throw new Problem('refused', 'The file is not an image that Umbo can read, or its beginning is damaged.');
    }
    if (meta.format === 'heif' && meta.compression !== 'av1')
      throw new Problem('refused', 'HEIC files are not read. Use JPEG, PNG, TIFF, WebP or AVIF.');
    const megapixels = (meta.width * meta.height) / 1e6;
    if (megapixels > MEGAPIXEL_LIMIT)
      throw new Problem('refused', `The photograph has ${Math.round(megapixels)} megapixels; Umbo reads up to ${MEGAPIXEL_LIMIT}.`);
    if (!DEPTHS.includes(meta.depth ?? ''))
      throw new Problem('refused', 'The file holds neither 8, 16 or 32 bits per channel. Save it with 16 bits and try again.');
    if (format === 'jpeg' && size * 8 < (meta.width * meta.height * JPEG_BITS) / 64) throw new Problem('refused', DAMAGED);
    return { format, meta, page, statement: format === 'png' ? await pngStatement(file, size) : null };
  });
}

/**
 * Refuses what is no photograph by its first bytes. All else shows what it is where it is decoded, in a thread that can be ended.
 * @throws Problem 'refused' with a sentence that names the reason
 */
export const refuseUnreadable = (path: string): Promise<void> =>
  withFile(path, async (file) => {
    if (!(await beginsAsRaw(file))) await sniff(file);
  });

/** What is known of a file's picture before its pixels are kept. */
export interface PictureFacts {
  width: number;
  height: number;
  /** Bits per channel of the file. */
  bits: 8 | 16;
  /** The profile that the file names. */
  profile: string;
}

/** What becomes of a file's colours. */
export interface DecodeHow {
  /** The space of the pixels; left out: the file's own, or the smallest that holds that. */
  space?: SpaceId | undefined;
  /** The space that the samples are taken to be in, whatever the file says. */
  readAs?: SpaceId | undefined;
}

export interface Decoded extends PictureFacts, Taken {
  blocks: MetadataBlocks;
  /** The space of the pixels. */
  space: SpaceId;
  /** The profile that the file brings with it, where that is of colours and none of our spaces: files can be made for it again. */
  icc?: Uint8Array;
  /** Interleaved RGB rows, 0..65535, from the first to the last, some at a time. */
  strips: () => AsyncGenerator<Uint16Array>;
}

/** Samples of a strip. */
const STRIP = 1 << 20;

/**
 * Decodes a file: EXIF orientation applied, transparency laid on white, brought into a working space where it is not in that, 16 bits kept.
 * @param scratch a folder for what is too large for memory
 * @param use may read the pixels as long as it runs
 * @throws Problem 'refused'
 */
export async function decode<T>(path: string, scratch: string, how: DecodeHow, use: (picture: Decoded) => Promise<T>): Promise<T> {
  if (await isRaw(path)) return decodeRaw(path, how, use);
  const inspected = await inspect(path);
  const { format, meta, page, statement } = inspected;
  if (meta.depth === 'float') return decodeFloat(path, inspected, scratch, how, use);
  const bits = meta.depth === 'uchar' ? 8 : 16;
  const cmyk = meta.space === 'cmyk';
  // Inks go through their profile into a space that holds them. Into sRGB, and where there is no profile, the decoder brings them by its own.
  const inks = cmyk && meta.icc && how.space !== 'srgb' ? await inksConverter(meta.icc, how.space) : null;
  const grey = meta.channels <= 2 && meta.icc !== undefined && !statement;
  await mkdir(scratch, { recursive: true });
  const plain = join(scratch, `${randomUUID()}.v`);
  try {
    // Profiles are followed here, because the decoder turns 16-bit pixels to another space.
    const failOn = format === 'tiff' ? 'warning' : 'truncated';
    const picture = sharp(path, { limitInputPixels: MEGAPIXEL_LIMIT * 1e6, failOn, ignoreIcc: !cmyk || inks !== null, page });
    const samples = inks
      ? picture.pipelineColourspace('cmyk').toColourspace('cmyk')
      : picture.toColourspace(grey ? (bits === 16 ? 'grey16' : 'b-w') : bits === 16 ? 'rgb16' : 'srgb');
    await samples
      .autoOrient()
      .toFile(plain)
      .catch((error: Error) => {
        inks?.close();
        if (/No space left|ENOSPC/.test(error.message)) throw error;
        throw new Problem('refused', DAMAGED);
      });
    const stated = statement === 'sRGB' ? null : statement;
    // Inks have been brought into sRGB by now: of them the file knows best.
    const readAs = cmyk ? undefined : how.readAs;
    const own = readAs ?? (stated && smallestHolding(stated.points));
    const icc = cmyk || statement || readAs ? undefined : meta.icc;
    const converter = inks ?? (icc ? await profileConverter(icc, meta.channels <= 2 ? 'grey' : 'rgb', how.space) : null);
    try {
      const source = converter?.space ?? own ?? 'srgb';
      const space = how.space ?? source;
      const convert = converter?.space ? converter.convert : stated && !readAs ? byStatement(stated, space) : between(source, space);
      return await withFile(plain, async (file) => {
        const pixels = await plainHeader(file);
        if (pixels.channels > (inks ? 5 : 4))
          throw new Problem('refused', `The file has ${pixels.channels} channels; Umbo reads grey, RGB and CMYK photographs.`);
        return use({
          width: pixels.width,
          height: pixels.height,
          bits,
          ...takenOf(meta.exif),
          blocks: blocksOf(meta),
          profile: inks ? inks.name : cmyk ? 'CMYK' : readAs ? spaces[readAs].name : (stated?.name ?? converter?.name ?? 'sRGB'),
          space,
          ...(meta.icc && !grey && converter?.convert && { icc: meta.icc }),
          strips: () => readStrips(file, pixels, inks ? 'inks' : 'light', convert),
        });
      });
    } finally {
      converter?.close();
    }
  } finally {
    await rm(plain, { force: true });
  }
}

/** @returns null for a profile that says nothing of inks */
async function inksConverter(icc: Uint8Array, to: SpaceId | undefined): Promise<ProfileConverter | null> {
  const converter = await profileConverter(icc, 'cmyk', to);
  return converter.convert ? converter : null;
}

/**
 * Floats are light: by the image library's convention of sRGB's primaries, greys of any. What is negative lies outside of sRGB and is worked on in
 * Rec. 2020; what is brighter than white is white. Transparency is left out.
 */
async function decodeFloat<T>(
  path: string,
  { meta, page }: Inspected,
  scratch: string,
  { space: wanted }: DecodeHow,
  use: (picture: Decoded) => Promise<T>,
): Promise<T> {
  await mkdir(scratch, { recursive: true });
  const plain = join(scratch, `${randomUUID()}.v`);
  try {
    const { width, height, channels } = await sharp(path, {
      limitInputPixels: MEGAPIXEL_LIMIT * 1e6,
      failOn: 'warning',
      ignoreIcc: true,
      page,
    })
      .autoOrient()
      .toColourspace(meta.channels <= 2 ? 'b-w' : 'scrgb')
      .toFile(plain)
      .catch((error: Error) => {
        if (/No space left|ENOSPC/.test(error.message)) throw error;
        throw new Problem('refused', DAMAGED);
      });
    return await withFile(plain, async (file) => {
      const rows = Math.max(1, Math.floor(STRIP / (width * channels)));
      async function* light(): AsyncGenerator<Float32Array> {
        for (let y = 0; y < height; y += rows) {
          const samples = new Float32Array(Math.min(rows, height - y) * width * channels);
          await file.read(samples, 0, samples.byteLength, PLAIN_HEADER + y * width * channels * 4);
          yield channels === 3 ? samples : threeOf(samples, channels);
          await breathe();
        }
      }
      let least = 0;
      if (!wanted) for await (const strip of light()) least = strip.reduce((low, v) => (v < low ? v : low), least);
      const space = wanted ?? (least < -1e-4 ? 'rec2020' : 'srgb');
      const m = matrixBetween(spaces.srgb, spaces[space]);
      const { tables } = spaces[space];
      async function* strips(): AsyncGenerator<Uint16Array> {
        for await (const rgb of light()) {
          const out = new Uint16Array(rgb.length);
          for (let i = 0; i < rgb.length; i += 3)
            for (let c = 0; c < 3; c++) {
              const v = m[c]![0] * rgb[i]! + m[c]![1] * rgb[i + 1]! + m[c]![2] * rgb[i + 2]!;
              out[i + c] = Math.round(unit(encode(tables, unit(v))) * 65535);
            }
          yield out;
        }
      }
      return use({
        ...{ width, height, bits: 16, space, strips },
        ...takenOf(meta.exif),
        blocks: blocksOf(meta),
        profile: 'light, as floats',
      });
    });
  } finally {
    await rm(plain, { force: true });
  }
}

/** Grey as three alike; transparency left out. */
function threeOf(samples: Float32Array, channels: number): Float32Array {
  const pixels = samples.length / channels;
  return new Float32Array(pixels * 3).map((_, i) => samples[Math.floor(i / 3) * channels + (channels >= 3 ? i % 3 : 0)]!);
}

/** What a sensor saw is wider than any display: without a wish it is worked on in ProPhoto. */
const RAW_SPACE: SpaceId = 'prophoto-rgb';

async function decodeRaw<T>(path: string, { space = RAW_SPACE }: DecodeHow, use: (picture: Decoded) => Promise<T>): Promise<T> {
  const { width, height, samples, camera, takenAt } = await develop(path);
  const { white, primaries } = spaces[RAW_SPACE];
  const convert = byStatement({ points: [white, primaries.r, primaries.g, primaries.b], toLinear: (v) => v }, space);
  async function* strips(): AsyncGenerator<Uint16Array> {
    const rows = Math.max(1, Math.floor(STRIP / (width * 3)));
    for (let y = 0; y < height; y += rows) {
      yield convert(samples.subarray(y * width * 3, Math.min(height, y + rows) * width * 3));
      await breathe();
    }
  }
  return use({
    width,
    height,
    bits: 16,
    takenAt: takenAt > 0 ? new Date(takenAt * 1000) : null,
    shotWith: camera === '' ? {} : { camera: shorten(cleanName(camera), 100) },
    blocks: { exif: null, xmp: null, iptc: null },
    profile: 'the camera’s sensor',
    space,
    strips,
  });
}

interface PlainPixels {
  width: number;
  height: number;
  channels: number;
  bytes: 1 | 2;
}
/** The image library's own uncompressed format: a header of 64 bytes in this machine's byte order, then rows. */
const PLAIN_HEADER = 64;

async function plainHeader(file: FileHandle): Promise<PlainPixels> {
  const header = new Int32Array(PLAIN_HEADER / 4);
  await file.read(header, 0, PLAIN_HEADER, 0);
  const [width, height, channels, , format] = header.subarray(1) as unknown as [number, number, number, number, number];
  const bytes = format === 0 ? 1 : format === 2 ? 2 : null;
  if (!bytes) throw new Error(`Decoded to an unexpected format (${format})`);
  return { width, height, channels, bytes };
}

async function* readStrips(
  file: FileHandle,
  { width, height, channels, bytes }: PlainPixels,
  of: 'light' | 'inks',
  convert: Convert | null,
): AsyncGenerator<Uint16Array> {
  const rows = Math.max(1, Math.floor(STRIP / (width * channels)));
  for (let y = 0; y < height; y += rows) {
    const pixels = Math.min(rows, height - y) * width;
    const samples = bytes === 1 ? new Uint8Array(pixels * channels) : new Uint16Array(pixels * channels);
    const { bytesRead } = await file.read(samples, 0, samples.byteLength, PLAIN_HEADER + y * width * channels * bytes);
    if (bytesRead !== samples.byteLength) throw new Error('The decoded pixels are shorter than they should be');
    const colours = of === 'inks' ? 4 : channels >= 3 ? 3 : 1;
    const opaque = onWhite(
      bytes === 1 ? widen(samples as Uint8Array) : (samples as Uint16Array),
      channels,
      colours,
      of === 'inks' ? 0 : 65535,
    );
    yield convert ? inSlices(opaque, colours, convert) : colours === 3 ? opaque : spread(opaque);
    await breathe();
  }
}

/** Pixels that are converted at once: what goes into the profile's memory and out of it. */
const SLICE = 1 << 16;

function inSlices(samples: Uint16Array, channels: number, convert: Convert): Uint16Array {
  const pixels = samples.length / channels;
  const out = new Uint16Array(pixels * 3);
  for (let from = 0; from < pixels; from += SLICE) {
    out.set(convert(samples.subarray(from * channels, Math.min(pixels, from + SLICE) * channels)), from * 3);
  }
  return out;
}

/** 8 to 16 bits: times 257, so that white stays white and 8-bit hand-over gives the same bytes back. */
function widen(samples: Uint8Array): Uint16Array {
  const out = new Uint16Array(samples.length);
  for (let i = 0; i < out.length; i++) out[i] = samples[i]! * 257;
  return out;
}

/** Without an alpha channel: what is transparent lies on white. @param white the sample that stands for it */
function onWhite(samples: Uint16Array, channels: number, colours: number, white: number): Uint16Array {
  if (channels === colours) return samples;
  const out = new Uint16Array((samples.length / channels) * colours);
  for (let i = 0, o = 0; i < samples.length; i += channels) {
    const alpha = samples[i + colours]!;
    // Nearly always nothing is transparent.
    if (alpha === 65535) for (let c = 0; c < colours; c++) out[o++] = samples[i + c]!;
    else for (let c = 0; c < colours; c++) out[o++] = Math.round((samples[i + c]! * alpha + white * (65535 - alpha)) / 65535);
  }
  return out;
}

function spread(greys: Uint16Array): Uint16Array {
  const out = new Uint16Array(greys.length * 3);
  for (let i = 0; i < greys.length; i++) out.fill(greys[i]!, i * 3, i * 3 + 3);
  return out;
}

/** From one of our spaces into another. */
function between(from: SpaceId, to: SpaceId): Convert | null {
  if (from === to) return null;
  const { white, primaries, toLight } = spaces[from];
  return byStatement({ points: [white, primaries.r, primaries.g, primaries.b], toLinear: toLight }, to);
}

/** From the colours that a PNG states into a space, by the formulas of its specification. Grey samples are three alike. */
function byStatement({ points, toLinear }: Pick<ColourStatement, 'points' | 'toLinear'>, space: SpaceId): Convert {
  const linear = Float64Array.from({ length: 65536 }, (_, v) => toLinear(v / 65535));
  const m = matrixTo(spaces[space], points);
  const { tables } = spaces[space];
  return (samples) => {
    const out = new Uint16Array(samples.length);
    for (let i = 0; i < samples.length; i += 3) {
      const [r, g, b] = [linear[samples[i]!]!, linear[samples[i + 1]!]!, linear[samples[i + 2]!]!];
      for (let c = 0; c < 3; c++) {
        const light = m[c]![0] * r + m[c]![1] * g + m[c]![2] * b;
        out[i + c] = Math.round(Math.max(0, Math.min(1, encode(tables, light))) * 65535);
      }
    }
    return out;
  };
}
