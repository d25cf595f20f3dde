/**
 * From an image file to 16-bit pixels of a working space, strip by strip. Files are hostile: everything is checked by content, and no photograph is
 * ever in memory as a whole.
 */
import { randomUUID } from 'node:crypto';
import type { FileHandle } from 'node:fs/promises';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { setImmediate as breathe } from 'node:timers/promises';
import { isMainThread } from 'node:worker_threads';
import type { SpaceId } from '@umbo/core/base';
import { encode, matrixTo, smallestHolding, spaces } from '@umbo/core/colour';
import sharp, { type Metadata } from 'sharp';
import { takenOf, type Taken } from './cameraFacts.ts';
import { profileConverter, type Convert } from './colour/icc.ts';
import { blocksOf, type MetadataBlocks } from './metadata.ts';
import { pngStatement, type ColourStatement } from './colour/pngColour.ts';
import { Problem } from './problem.ts';
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
export async function inspect(path: string): Promise<Inspected> {
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
    if (meta.depth !== 'uchar' && meta.depth !== 'ushort')
      throw new Problem('refused', 'The file does not hold 8 or 16 bits per channel. Save it with 16 bits and try again.');
    if (format === 'jpeg' && size * 8 < (meta.width * meta.height * JPEG_BITS) / 64) throw new Problem('refused', DAMAGED);
    return { format, meta, page, statement: format === 'png' ? await pngStatement(file, size) : null };
  });
}

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
  const { format, meta, page, statement } = await inspect(path);
  const bits = meta.depth === 'ushort' ? 16 : 8;
  const cmyk = meta.space === 'cmyk';
  const grey = meta.channels <= 2 && meta.icc !== undefined && !statement;
  await mkdir(scratch, { recursive: true });
  const plain = join(scratch, `${randomUUID()}.v`);
  try {
    // CMYK is converted by the decoder's own LittleCMS; all else here, because the decoder turns 16-bit pixels to another space.
    const failOn = format === 'tiff' ? 'warning' : 'truncated';
    await sharp(path, { limitInputPixels: MEGAPIXEL_LIMIT * 1e6, failOn, ignoreIcc: !cmyk, page })
      .autoOrient()
      .toColourspace(grey ? (bits === 16 ? 'grey16' : 'b-w') : bits === 16 ? 'rgb16' : 'srgb')
      .toFile(plain)
      .catch((error: Error) => {
        if (/No space left|ENOSPC/.test(error.message)) throw error;
        throw new Problem('refused', DAMAGED);
      });
    const stated = statement === 'sRGB' ? null : statement;
    const own = how.readAs ?? (stated && smallestHolding(stated.points));
    const icc = cmyk || statement || how.readAs ? undefined : meta.icc;
    const converter = icc ? await profileConverter(icc, meta.channels <= 2 ? 'grey' : 'rgb', how.space) : null;
    try {
      const source = converter?.space ?? own ?? 'srgb';
      const space = how.space ?? source;
      const convert = converter?.space ? converter.convert : stated && !how.readAs ? byStatement(stated, space) : between(source, space);
      return await withFile(plain, async (file) => {
        const pixels = await plainHeader(file);
        if (pixels.channels > 4)
          throw new Problem('refused', `The file has ${pixels.channels} channels; Umbo reads grey, RGB and CMYK photographs.`);
        return use({
          width: pixels.width,
          height: pixels.height,
          bits,
          ...takenOf(meta.exif),
          blocks: blocksOf(meta),
          profile: cmyk ? 'CMYK' : how.readAs ? spaces[how.readAs].name : (stated?.name ?? converter?.name ?? 'sRGB'),
          space,
          strips: () => readStrips(file, pixels, convert),
        });
      });
    } finally {
      converter?.close();
    }
  } finally {
    await rm(plain, { force: true });
  }
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
  convert: Convert | null,
): AsyncGenerator<Uint16Array> {
  const rows = Math.max(1, Math.floor(STRIP / (width * channels)));
  for (let y = 0; y < height; y += rows) {
    const pixels = Math.min(rows, height - y) * width;
    const samples = bytes === 1 ? new Uint8Array(pixels * channels) : new Uint16Array(pixels * channels);
    const { bytesRead } = await file.read(samples, 0, samples.byteLength, PLAIN_HEADER + y * width * channels * bytes);
    if (bytesRead !== samples.byteLength) throw new Error('The decoded pixels are shorter than they should be');
    const opaque = onWhite(bytes === 1 ? widen(samples as Uint8Array) : (samples as Uint16Array), channels);
    const colours = channels >= 3 ? 3 : 1;
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

/** Without an alpha channel: what is transparent lies on white. */
function onWhite(samples: Uint16Array, channels: number): Uint16Array {
  if (channels === 1 || channels === 3) return samples;
  const colours = channels - 1;
  const out = new Uint16Array((samples.length / channels) * colours);
  for (let i = 0, o = 0; i < samples.length; i += channels) {
    const alpha = samples[i + colours]!;
    for (let c = 0; c < colours; c++) out[o++] = Math.round((samples[i + c]! * alpha + 65535 * (65535 - alpha)) / 65535);
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
