/** From an image file to 16-bit sRGB pixels. Files are hostile: everything is checked by content. */
import { open, stat } from 'node:fs/promises';
import { setImmediate as breathe } from 'node:timers/promises';
import sharp, { type Metadata, type OutputInfo } from 'sharp';
import { Problem } from './problem.ts';
import { profileConverter } from './icc.ts';

export const MEGAPIXEL_LIMIT = 200;

/** What sharp calls the formats that are accepted. AVIF is a kind of HEIF. */
const FORMATS = ['jpeg', 'png', 'tiff', 'webp', 'heif'];

export interface Decoded {
  width: number;
  height: number;
  /** Bits per channel of the file. */
  bits: 8 | 16;
  /** The profile it was converted from. */
  profile: string;
  /** Interleaved RGB rows in sRGB, 0..65535. */
  pixels: Uint16Array;
}

/**
 * Looks at a file without decoding it.
 * @throws Problem 'refused' with a sentence that names the reason
 */
export async function inspect(path: string): Promise<Metadata> {
  const { size } = await stat(path);
  if (size === 0) throw new Problem('refused', 'The file is empty.');
  // SVG and PDF are programs as much as pictures: they never reach the decoder.
  if (await looksLikeText(path)) throw new Problem('refused', 'The file is not a photograph: its content is text.');
  let meta: Metadata;
  try {
    meta = await sharp(path, { limitInputPixels: false, failOn: 'none' }).metadata();
  } catch {
    throw new Problem('refused', 'The file is not an image that Umbo can read: JPEG, PNG, TIFF, WebP or AVIF.');
  }
  if (!FORMATS.includes(meta.format ?? '') || (meta.format === 'heif' && meta.compression !== 'av1'))
    throw new Problem('refused', `${(meta.format ?? 'This format').toUpperCase()} files are not read. Use JPEG, PNG, TIFF, WebP or AVIF.`);
  const megapixels = (meta.width * meta.height) / 1e6;
  if (megapixels > MEGAPIXEL_LIMIT)
    throw new Problem('refused', `The photograph has ${Math.round(megapixels)} megapixels; Umbo reads up to ${MEGAPIXEL_LIMIT}.`);
  if (meta.depth !== 'uchar' && meta.depth !== 'ushort')
    throw new Problem('refused', 'The file does not hold 8 or 16 bits per channel. Save it with 16 bits and try again.');
  return meta;
}

/** Whether a file begins with valid UTF-8 and no control characters. */
async function looksLikeText(path: string): Promise<boolean> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(512), 0, 512, 0);
    // Streaming, so that a character cut in two at the end counts as text.
    const text = new TextDecoder('utf-8', { fatal: true }).decode(buffer.subarray(0, bytesRead), { stream: true });
    return !/[\x00-\x08\x0e-\x1f]/.test(text);
  } catch {
    return false;
  } finally {
    await file.close();
  }
}

/**
 * Decodes a file: EXIF orientation applied, transparency laid on white, embedded profile converted, 16 bits kept.
 * @throws Problem 'refused'
 */
export async function decode(path: string): Promise<Decoded> {
  const meta = await inspect(path);
  const bits = meta.depth === 'ushort' ? 16 : 8;
  const cmyk = meta.space === 'cmyk';
  const grey = meta.channels <= 2 && meta.icc !== undefined;
  // CMYK is converted by the decoder's own LittleCMS; all else here, because the decoder turns 16-bit pixels to another space.
  let image = sharp(path, { limitInputPixels: MEGAPIXEL_LIMIT * 1e6, failOn: 'truncated', ignoreIcc: !cmyk })
    .autoOrient()
    .flatten({ background: '#ffffff' });
  image = image.toColourspace(grey ? (bits === 16 ? 'grey16' : 'b-w') : bits === 16 ? 'rgb16' : 'srgb');
  let raw: { data: Buffer; info: OutputInfo };
  try {
    raw = await image.raw({ depth: bits === 16 ? 'ushort' : 'uchar' }).toBuffer({ resolveWithObject: true });
  } catch {
    throw new Problem('refused', 'The file is damaged or cut short: its pixels cannot be read to the end.');
  }
  const { width, height, channels } = raw.info;
  const samples = bits === 16 ? new Uint16Array(raw.data.buffer, raw.data.byteOffset, raw.data.length / 2) : await widen(raw.data);
  const convert = meta.icc && !cmyk ? await profileConverter(meta.icc, channels === 1 ? 'grey' : 'rgb') : null;
  const pixels = channels === 3 ? samples : new Uint16Array(width * height * 3);
  if (convert?.convert) {
    await inSlices(width * height, 1 << 16, (from, to) =>
      pixels.set(convert.convert!(samples.subarray(from * channels, to * channels)), from * 3),
    );
  } else if (channels === 1) {
    await inSlices(width * height, 1 << 20, (from, to) => {
      for (let i = from; i < to; i++) pixels.fill(samples[i]!, i * 3, i * 3 + 3);
    });
  } else if (channels !== 3) {
    throw new Problem('refused', `The file has ${channels} channels; Umbo reads grey, RGB and CMYK photographs.`);
  }
  return { width, height, bits, profile: cmyk ? 'CMYK' : (convert?.name ?? 'sRGB'), pixels };
}

/** 8 to 16 bits: times 257, so that white stays white and 8-bit hand-over gives the same bytes back. */
async function widen(bytes: Buffer): Promise<Uint16Array> {
  const out = new Uint16Array(bytes.length);
  await inSlices(bytes.length, 1 << 22, (from, to) => {
    for (let i = from; i < to; i++) out[i] = bytes[i]! * 257;
  });
  return out;
}

/** Long loops in slices, so that the process goes on answering. */
export async function inSlices(total: number, slice: number, work: (from: number, to: number) => void): Promise<void> {
  for (let from = 0; from < total; from += slice) {
    work(from, Math.min(total, from + slice));
    await breathe();
  }
}
