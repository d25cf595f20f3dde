/**
 * The image library's own uncompressed format, which is filled row by row and carries every kind of metadata on to the file that is made of
 * it: a header of 64 bytes, interleaved rows in this machine's byte order, and a tail in XML. See libvips, `libvips/iofuncs/vips.c`.
 */
import { endianness } from 'node:os';
import type { Size } from '@umbo/core/base';
import sharp from 'sharp';

export const PLAIN_HEADER = 64;

const MAGIC = { LE: 0x08f2a6b6, BE: 0xb6a6f208 } as const;
/** Bands are unsigned; what they mean: sRGB of 8 bits, or RGB of 16. */
const BAND = { 8: { format: 0, meaning: 22 }, 16: { format: 2, meaning: 25 } } as const;

export function plainHeader({ width, height }: Size, bits: 8 | 16): Uint8Array {
  const header = new Int32Array(PLAIN_HEADER / 4);
  const [one] = new Int32Array(Float32Array.of(1).buffer);
  const { format, meaning } = BAND[bits];
  header.set([MAGIC[endianness()] | 0, width, height, 3, bits, format, 0, meaning, one!, one!]);
  return new Uint8Array(header.buffer);
}

/** What goes along, as files hold it; null: there is none. */
export interface Carried {
  icc: Uint8Array | null;
  exif: Uint8Array | null;
  xmp: Uint8Array | null;
  iptc: Uint8Array | null;
}

const BLOBS = { icc: 'icc-profile-data', exif: 'exif-data', xmp: 'xmp-data', iptc: 'iptc-data' } as const;

export function plainTail(carried: Carried): string {
  const fields = (Object.keys(BLOBS) as (keyof Carried)[]).flatMap((key) => {
    const block = carried[key];
    return block ? [`<field type="VipsBlob" name="${BLOBS[key]}">${Buffer.from(block).toString('base64')}</field>`] : [];
  });
  return `<?xml version="1.0"?>\n<root xmlns="http://www.vips.ecs.soton.ac.uk/vips/${sharp.versions.vips}"><header></header><meta>${fields.join('\n')}</meta></root>\n`;
}
