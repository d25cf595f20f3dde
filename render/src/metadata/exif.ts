/** EXIF blocks (CIPA DC-008, Exif 2.32: a TIFF tree behind "Exif" and two zeros), changed in place. */
import type { Size } from '@umbo/core/base';

const TAG = { orientation: 0x0112, software: 0x0131, exif: 0x8769, gps: 0x8825, width: 0xa002, height: 0xa003 } as const;
const TYPE = { short: 3, long: 4 } as const;
const SIZES: Record<number, number> = { 1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8 };
const ENTRY = 12;

/**
 * The block for a picture that was rendered: upright, as large as it is, by Umbo, and without the small picture of how it was before.
 * @param place whether the place where it was taken stays
 * @returns null where the block is damaged: nothing of it can be trusted
 */
export function correctedExif(block: Buffer, size: Size, place: boolean): Buffer | null {
  const exif = Buffer.from(block);
  const start = exif.subarray(0, 4).toString('latin1') === 'Exif' ? 6 : 0;
  const tree = exif.subarray(start);
  try {
    const little = tree.toString('latin1', 0, 2) === 'II';
    const u16 = (at: number): number => (little ? tree.readUInt16LE(at) : tree.readUInt16BE(at));
    const u32 = (at: number): number => (little ? tree.readUInt32LE(at) : tree.readUInt32BE(at));
    const put16 = (at: number, v: number): number => (little ? tree.writeUInt16LE(v, at) : tree.writeUInt16BE(v, at));
    const put32 = (at: number, v: number): number => (little ? tree.writeUInt32LE(v, at) : tree.writeUInt32BE(v, at));
    if (u16(2) !== 42) return null;
    const entriesOf = (directory: number): number[] => {
      const count = u16(directory);
      if (directory + 2 + count * ENTRY > tree.length) throw new RangeError('A directory is cut short');
      return Array.from({ length: count }, (_, i) => directory + 2 + i * ENTRY);
    };
    const bytesOf = (entry: number): number => (SIZES[u16(entry + 2)] ?? 1) * u32(entry + 4);
    const putLong = (entry: number, v: number): void => {
      put16(entry + 2, TYPE.long);
      put32(entry + 4, 1);
      put32(entry + 8, v);
    };
    const first = u32(4);
    for (const entry of entriesOf(first)) {
      const tag = u16(entry);
      if (tag === TAG.orientation) {
        put16(entry + 2, TYPE.short);
        put16(entry + 8, 1);
      } else if (tag === TAG.software) {
        const bytes = bytesOf(entry);
        const at = bytes > 4 ? u32(entry + 8) : entry + 8;
        tree.fill(0, at, at + bytes);
        tree.write('Umbo', at, Math.max(0, bytes - 1), 'latin1');
      } else if (tag === TAG.exif)
        for (const own of entriesOf(u32(entry + 8))) {
          if (u16(own) === TAG.width) putLong(own, size.width);
          if (u16(own) === TAG.height) putLong(own, size.height);
        }
    }
    const entries = entriesOf(first);
    const end = first + 2 + entries.length * ENTRY;
    put32(end, 0); // the small picture
    const pointers = place ? [] : entries.filter((entry) => u16(entry) === TAG.gps);
    for (const directory of new Set(pointers.map((entry) => u32(entry + 8)))) {
      for (const entry of entriesOf(directory)) {
        const bytes = bytesOf(entry);
        if (bytes > 4 && bytes <= tree.length) tree.fill(0, u32(entry + 8), u32(entry + 8) + bytes);
      }
      tree.fill(0, directory, directory + 2 + u16(directory) * ENTRY);
    }
    for (const [i, entry] of pointers.entries()) {
      // Each moved up by those that are gone before it.
      const at = entry - i * ENTRY;
      tree.copyWithin(at, at + ENTRY, end + 4 - i * ENTRY);
    }
    put16(first, entries.length - pointers.length);
    return exif;
  } catch {
    return null;
  }
}

/** A block with texts of its first directory alone, in UTF-8. @param texts by their tags, in rising order */
export function plainExif(texts: readonly (readonly [number, string])[]): Buffer {
  const values = texts.map(([, text]) => Buffer.from(`${text}\0`));
  const directory = 8;
  let at = directory + 2 + texts.length * ENTRY + 4;
  const tree = Buffer.alloc(at + values.reduce((sum, { length }) => sum + Math.max(4, length), 0));
  tree.write('II', 'latin1');
  tree.writeUInt16LE(42, 2);
  tree.writeUInt32LE(directory, 4);
  tree.writeUInt16LE(texts.length, directory);
  for (const [i, value] of values.entries()) {
    const entry = directory + 2 + i * ENTRY;
    tree.writeUInt16LE(texts[i]![0], entry);
    tree.writeUInt16LE(2, entry + 2);
    tree.writeUInt32LE(value.length, entry + 4);
    if (value.length <= 4) value.copy(tree, entry + 8);
    else {
      tree.writeUInt32LE(at, entry + 8);
      value.copy(tree, at);
      at += value.length;
    }
  }
  return Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), tree]);
}
