/** What a file is, told by its first bytes before anything parses it. */
import { open, type FileHandle } from 'node:fs/promises';
import { Problem } from '@umbo/core/base';

export type PhotographFormat = 'jpeg' | 'png' | 'tiff' | 'webp' | 'avif';

const ACCEPTED = 'Use JPEG, PNG, TIFF, WebP or AVIF.';

const begins = (bytes: Buffer, ...start: number[]): boolean => start.every((byte, i) => bytes[i] === byte);
const text = (bytes: Buffer, from: number, to: number): string => bytes.toString('latin1', from, to);

/** Names of formats that people may try; none of them is read. */
const FOREIGN: readonly [name: string, is: (bytes: Buffer) => boolean][] = [
  ['GIF', (b) => text(b, 0, 4) === 'GIF8'],
  ['BMP', (b) => text(b, 0, 2) === 'BM' && b.readUInt32LE(6) === 0],
  ['HEIC', (b) => text(b, 4, 8) === 'ftyp'],
  ['JPEG XL', (b) => begins(b, 0xff, 0x0a) || text(b, 4, 8) === 'JXL '],
  ['JPEG 2000', (b) => text(b, 4, 8) === 'jP  ' || begins(b, 0xff, 0x4f, 0xff, 0x51)],
  ['OpenEXR', (b) => begins(b, 0x76, 0x2f, 0x31, 0x01)],
  ['PDF', (b) => text(b, 0, 5) === '%PDF-'],
  ['Compressed', (b) => begins(b, 0x1f, 0x8b) || text(b, 0, 4) === 'PK\u0003\u0004'],
];

/** Brands of AVIF (AV1 Image File Format 1.1.0, section 6) that a file type box may name, as the main or as a compatible one. */
const AVIF = ['avif', 'avis'];

function formatOf(bytes: Buffer): PhotographFormat | null {
  if (begins(bytes, 0xff, 0xd8, 0xff)) return 'jpeg';
  if (begins(bytes, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png';
  if (begins(bytes, 0x49, 0x49, 42, 0) || begins(bytes, 0x4d, 0x4d, 0, 42)) return 'tiff';
  if (begins(bytes, 0x49, 0x49, 43, 0) || begins(bytes, 0x4d, 0x4d, 0, 43)) return 'tiff';
  if (text(bytes, 0, 4) === 'RIFF' && text(bytes, 8, 12) === 'WEBP') return 'webp';
  if (text(bytes, 4, 8) !== 'ftyp') return null;
  const end = Math.min(bytes.length, bytes.readUInt32BE(0));
  for (let at = 8; at + 4 <= end; at += 4) if (at !== 12 && AVIF.includes(text(bytes, at, at + 4))) return 'avif';
  return null;
}

/** @throws Problem 'refused' with a sentence that says what the file is instead */
export async function sniff(file: FileHandle): Promise<PhotographFormat> {
  const { buffer, bytesRead } = await file.read(Buffer.alloc(512), 0, 512, 0);
  if (bytesRead === 0) throw new Problem('refused', 'The file is empty.');
  const format = formatOf(buffer);
  if (format) return format;
  const foreign = FOREIGN.find(([, is]) => is(buffer));
  if (foreign) throw new Problem('refused', `${foreign[0]} files are not read. ${ACCEPTED}`);
  if (looksLikeText(buffer.subarray(0, bytesRead))) throw new Problem('refused', 'The file is not a photograph: its content is text.');
  throw new Problem('refused', 'The file is not an image that Umbo can read: JPEG, PNG, TIFF, WebP or AVIF.');
}

/** Whether a file begins with valid UTF-8 and no control characters. */
function looksLikeText(begin: Buffer): boolean {
  try {
    // Streaming, so that a character cut in two at the end counts as text.
    const decoded = new TextDecoder('utf-8', { fatal: true }).decode(begin, { stream: true });
    return !/[\x00-\x08\x0e-\x1f]/.test(decoded);
  } catch {
    return false;
  }
}

/** Calls `use` with an open file and its size, and closes it. */
export async function withFile<T>(path: string, use: (file: FileHandle, size: number) => Promise<T>): Promise<T> {
  const file = await open(path);
  try {
    return await use(file, (await file.stat()).size);
  } finally {
    await file.close();
  }
}
