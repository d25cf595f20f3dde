/**
 * The directories of a TIFF file (TIFF 6.0; BigTIFF as libtiff describes it): which page is the photograph, and whether its pixels are
 * all there. Decoders fill what is missing with black.
 */
import type { FileHandle } from 'node:fs/promises';
import { Problem } from '@umbo/core/base';

/** Tags by their names in TIFF 6.0, section 8. */
const TAG = {
  newSubfileType: 254,
  width: 256,
  height: 257,
  bitsPerSample: 258,
  compression: 259,
  photometric: 262,
  stripOffsets: 273,
  samplesPerPixel: 277,
  rowsPerStrip: 278,
  stripByteCounts: 279,
  planar: 284,
  tileWidth: 322,
  tileHeight: 323,
  tileOffsets: 324,
  tileByteCounts: 325,
  subPages: 330,
  /** DNG 1.7, chapter 4: what makes a TIFF a DNG. */
  dngVersion: 50706,
} as const;
type Field = keyof typeof TAG;
type Page = Partial<Record<Field, Float64Array>>;

/** Bytes of the types of fields, by their numbers: BYTE 1, SHORT 3, LONG 4, LONG8 16. Others are not needed. */
const BYTES: Record<number, number> = { 1: 1, 3: 2, 4: 4, 16: 8 };
const PAGES = 64;
const ENTRIES = 4096;
/** Values that are read of one file: strips of one row each, of the highest photograph there can be, with their lengths. */
const VALUES = 1 << 21;
/** Fields of more than one value that counts. */
const LISTS: ReadonlySet<Field> = new Set<Field>([
  'bitsPerSample',
  'stripOffsets',
  'stripByteCounts',
  'tileOffsets',
  'tileByteCounts',
  'subPages',
]);

/** Colours of a TIFF: how many samples they have, or why they are not read. */
const COLOURS: Record<number, number | string> = {
  0: 1,
  1: 1,
  2: 3,
  3: 1,
  5: 4,
  6: 3,
  8: 'CIELab colours',
  9: 'ICC Lab colours',
  10: 'ITU Lab colours',
  32803: 'the raw mosaic of a camera’s sensor',
  34892: 'linear raw data of a camera',
  32844: 'LogLuv colours',
  32845: 'LogLuv colours',
};

const damaged = (): Problem => new Problem('refused', 'The file is damaged or cut short: its pixels are not all there.');

class Reader {
  readonly #file: FileHandle;
  readonly #little: boolean;
  readonly big: boolean;
  readonly size: number;
  /** Values that may still be read of this file. */
  #left = VALUES;
  constructor(file: FileHandle, size: number, start: Buffer) {
    this.#file = file;
    this.size = size;
    this.#little = start[0] === 0x49;
    this.big = this.number(start, 2, 2) === 43;
  }
  number(bytes: Buffer, at: number, length: number): number {
    if (length === 8) return Number(this.#little ? bytes.readBigUInt64LE(at) : bytes.readBigUInt64BE(at));
    return this.#little ? bytes.readUIntLE(at, length) : bytes.readUIntBE(at, length);
  }
  /** @throws Problem where a file names more than any picture needs */
  spend(values: number): void {
    this.#left -= values;
    if (this.#left < 0) throw damaged();
  }
  async bytes(from: number, length: number): Promise<Buffer> {
    if (from + length > this.size) throw damaged();
    const { buffer, bytesRead } = await this.#file.read(Buffer.alloc(length), 0, length, from);
    if (bytesRead !== length) throw damaged();
    return buffer;
  }
}

const names = new Map(Object.entries(TAG).map(([name, tag]) => [tag as number, name as Field]));

async function readPage(reader: Reader, at: number): Promise<{ page: Page; next: number }> {
  const [countBytes, entryBytes, wordBytes] = reader.big ? [8, 20, 8] : [2, 12, 4];
  const count = reader.number(await reader.bytes(at, countBytes), 0, countBytes);
  if (count === 0 || count > ENTRIES) throw damaged();
  const bytes = await reader.bytes(at + countBytes, count * entryBytes + wordBytes);
  const page: Page = {};
  for (let i = 0; i < count; i++) {
    const entry = i * entryBytes;
    const name = names.get(reader.number(bytes, entry, 2));
    const each = BYTES[reader.number(bytes, entry + 2, 2)];
    // A tag stands once in a directory: what comes again is not looked at.
    if (!name || !each || page[name]) continue;
    const named = reader.number(bytes, entry + 4, reader.big ? 8 : 4);
    const values = LISTS.has(name) ? named : Math.min(1, named);
    reader.spend(values);
    const valueAt = entry + 4 + (reader.big ? 8 : 4);
    const inside = named * each <= wordBytes;
    const data = inside ? bytes : await reader.bytes(reader.number(bytes, valueAt, wordBytes), values * each);
    const list = new Float64Array(values);
    for (let k = 0; k < values; k++) list[k] = reader.number(data, (inside ? valueAt : 0) + k * each, each);
    page[name] = list;
  }
  return { page, next: reader.number(bytes, count * entryBytes, wordBytes) };
}

/**
 * Finds the first page that is no reduced copy of another and looks whether it is whole.
 * @returns its number
 * @throws Problem 'refused'
 */
export async function photographPage(file: FileHandle, size: number): Promise<number> {
  const start = Buffer.alloc(16);
  await file.read(start, 0, 16, 0);
  const reader = new Reader(file, size, start);
  let at = reader.number(start, reader.big ? 8 : 4, reader.big ? 8 : 4);
  const pages: Page[] = [];
  const seen = new Set<number>();
  while (at !== 0 && pages.length < PAGES) {
    if (seen.has(at)) throw damaged();
    seen.add(at);
    const { page, next } = await readPage(reader, at);
    pages.push(page);
    at = next;
  }
  // Bit 0 of NewSubfileType: a reduced-resolution version of another image in this file. Bit 2: a mask.
  const full = pages.findIndex(({ newSubfileType }) => ((newSubfileType?.[0] ?? 0) & 5) === 0);
  const number = Math.max(0, full);
  if (!pages[number]) throw damaged();
  checkColours(pages[number]);
  checkPixels(pages[number], size);
  return number;
}

/** Samples of a sensor: TIFF/EP and DNG 1.7, PhotometricInterpretation. */
const SENSOR = [32803, 34892];

/** Whether a file is a TIFF that holds what a camera's sensor saw: by itself, in a page within its first, or by its own word. */
export async function isRawTiff(file: FileHandle, size: number): Promise<boolean> {
  const start = Buffer.alloc(16);
  const { bytesRead } = await file.read(start, 0, 16, 0);
  const order = start.toString('latin1', 0, 2);
  if (bytesRead < 16 || (order !== 'II' && order !== 'MM')) return false;
  try {
    const reader = new Reader(file, size, start);
    if (reader.big || reader.number(start, 2, 2) !== 42) return false;
    const { page } = await readPage(reader, reader.number(start, 4, 4));
    if (page.dngVersion) return true;
    const within = [];
    for (const at of page.subPages?.subarray(0, PAGES) ?? []) within.push((await readPage(reader, at)).page);
    return [page, ...within].some(({ photometric }) => SENSOR.includes(photometric?.[0] ?? -1));
  } catch (error) {
    // What is damaged is told apart when it is read.
    if (error instanceof Problem) return false;
    throw error;
  }
}

function checkColours({ photometric, samplesPerPixel, bitsPerSample }: Page): void {
  const colours = COLOURS[photometric?.[0] ?? 1];
  const samples = samplesPerPixel?.[0] ?? bitsPerSample?.length ?? 1;
  if (typeof colours !== 'number')
    throw new Problem('refused', `The TIFF holds ${colours ?? 'colours of an unknown kind'}. Save it in RGB and try again.`);
  if (samples > colours + 1)
    throw new Problem(
      'refused',
      `The TIFF holds ${samples - colours} channels beside its colours, such as spot colours; only one, for transparency, is read. Merge them and try again.`,
    );
  if (samples < colours) throw damaged();
}

function checkPixels(page: Page, size: number): void {
  const [width, height] = [page.width?.[0] ?? 0, page.height?.[0] ?? 0];
  const samples = page.samplesPerPixel?.[0] ?? 1;
  const bits = page.bitsPerSample?.[0] ?? 1;
  const planes = page.planar?.[0] === 2 ? samples : 1;
  const tiled = page.tileOffsets !== undefined;
  const offsets = page.tileOffsets ?? page.stripOffsets ?? [];
  const counts = page.tileByteCounts ?? page.stripByteCounts ?? [];
  const [across, down] = tiled
    ? [Math.ceil(width / (page.tileWidth?.[0] || 1)), Math.ceil(height / (page.tileHeight?.[0] || 1))]
    : [1, Math.ceil(height / Math.min(height || 1, page.rowsPerStrip?.[0] || height || 1))];
  const wanted = across * down * planes;
  if (!width || !height || offsets.length < wanted || counts.length < wanted) throw damaged();
  let total = 0;
  for (let i = 0; i < wanted; i++) {
    if (counts[i]! === 0 || offsets[i]! === 0 || offsets[i]! + counts[i]! > size) throw damaged();
    total += counts[i]!;
  }
  const subsampled = page.photometric?.[0] === 6;
  const uncompressed = (page.compression?.[0] ?? 1) === 1 && !subsampled;
  if (uncompressed && total < Math.ceil((width * bits * (samples / planes)) / 8) * height * planes) throw damaged();
}
