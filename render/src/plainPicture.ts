/**
 * The image library's own uncompressed format, which is filled row by row and carries every kind of metadata on to the file that is made of
 * it: a header of 64 bytes, interleaved rows in this machine's byte order, and a tail in XML. See libvips, `libvips/iofuncs/vips.c`.
 */
import { endianness } from 'node:os';
import type { Size } from '@umbo/core/base';
import sharp from 'sharp';

export const PLAIN_HEADER = 64;

const MAGIC = { LE: 0x08f2a6b6, BE: 0xb6a6f208 } as const;
/** Bands are unsigned. */
const BAND = { 8: 0, 16: 2 } as const;
/** What bands mean, by their number: grey, RGB or inks, of 8 bits and of 16. */
const MEANING: Readonly<Record<number, Readonly<Record<8 | 16, number>>>> = {
  1: { 8: 1, 16: 26 },
  3: { 8: 22, 16: 25 },
  4: { 8: 15, 16: 15 },
};

export function plainHeader({ width, height }: Size, bits: 8 | 16, bands: 1 | 3 | 4 = 3): Uint8Array {
  const header = new Int32Array(PLAIN_HEADER / 4);
  const [one] = new Int32Array(Float32Array.of(1).buffer);
  header.set([MAGIC[endianness()] | 0, width, height, bands, bits, BAND[bits], 0, MEANING[bands]![bits], one!, one!]);
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
