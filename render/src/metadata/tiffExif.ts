/** EXIF in TIFF files, which the image library leaves out: the camera's directories are appended, and the file's own is written anew behind them. */
import { open } from 'node:fs/promises';

interface Entry {
  tag: number;
  type: number;
  count: number;
  /** Little-endian. */
  bytes: Buffer;
}

const ENTRY = 12;
const POINTERS = { exif: 0x8769, gps: 0x8825 } as const;
const LONG = 4;
/** By type: bytes of a value, and of the numbers that it is made of. */
const TYPES: Record<number, readonly [number, number]> = { 1: [1, 1], 2: [1, 1], 3: [2, 2], 4: [4, 4], 5: [8, 4], 6: [1, 1], 7: [1, 1], 8: [2, 2], 9: [4, 4], 10: [8, 4], 11: [4, 4], 12: [8, 8] }; // prettier-ignore
/** What the picture's own directory takes over: description, maker, model, software, time, artist, copyright. */
const OWN = new Set([0x010e, 0x010f, 0x0110, 0x0131, 0x0132, 0x013b, 0x8298]);
/** Directories further down, and what only their maker can read: its offsets would be wrong elsewhere. */
const LEFT = new Set([0xa005, 0x927c]);

function entriesOf(tree: Buffer, directory: number): Entry[] {
  const little = tree.toString('latin1', 0, 2) === 'II';
  const u16 = (at: number): number => (little ? tree.readUInt16LE(at) : tree.readUInt16BE(at));
  const u32 = (at: number): number => (little ? tree.readUInt32LE(at) : tree.readUInt32BE(at));
  // Together no longer than the block: what names the same bytes again and again would grow without end.
  let left = tree.length;
  const count = Math.min(u16(directory), Math.floor((tree.length - directory - 2) / ENTRY));
  return Array.from({ length: count }, (_, i) => directory + 2 + i * ENTRY).flatMap((at): Entry[] => {
    const [tag, type, count] = [u16(at), u16(at + 2), u32(at + 4)];
    const known = TYPES[type];
    if (!known) return [];
    const length = known[0] * count;
    const from = length > 4 ? u32(at + 8) : at + 8;
    if (from + length > tree.length || length > left) return [];
    left -= length;
    const bytes = Buffer.from(tree.subarray(from, from + length));
    if (!little && known[1] === 2) bytes.swap16();
    if (!little && known[1] === 4) bytes.swap32();
    if (!little && known[1] === 8) bytes.swap64();
    return [{ tag, type, count, bytes }];
  });
}

/** A directory with what it points to. @param at where in the file it will begin */
function directoryAt(entries: readonly Entry[], at: number): Buffer {
  const sorted = [...entries].sort((a, b) => a.tag - b.tag);
  const head = Buffer.alloc(2 + sorted.length * ENTRY + 4);
  head.writeUInt16LE(sorted.length, 0);
  const values: Buffer[] = [];
  let next = at + head.length;
  for (const [i, { tag, type, count, bytes }] of sorted.entries()) {
    const entry = 2 + i * ENTRY;
    head.writeUInt16LE(tag, entry);
    head.writeUInt16LE(type, entry + 2);
    head.writeUInt32LE(count, entry + 4);
    if (bytes.length <= 4) bytes.copy(head, entry + 8);
    else {
      head.writeUInt32LE(next, entry + 8);
      const padded = Buffer.concat([bytes, Buffer.alloc(bytes.length % 2)]);
      values.push(padded);
      next += padded.length;
    }
  }
  return Buffer.concat([head, ...values]);
}

const pointer = (tag: number, to: number): Entry => {
  const bytes = Buffer.alloc(4);
  bytes.writeUInt32LE(to);
  return { tag, type: LONG, count: 1, bytes };
};

/**
 * Puts an EXIF block into a TIFF file.
 * @param path of a little-endian TIFF with one page
 * @throws RangeError for a file or a block that is not what it should be
 */
export async function putExif(path: string, block: Buffer): Promise<void> {
  const tree = block.subarray(block.subarray(0, 4).toString('latin1') === 'Exif' ? 6 : 0);
  const u32 = (bytes: Buffer, at: number): number =>
    tree.toString('latin1', 0, 2) === 'II' ? bytes.readUInt32LE(at) : bytes.readUInt32BE(at);
  const camera = entriesOf(tree, u32(tree, 4));
  const file = await open(path, 'r+');
  try {
    const { size } = await file.stat();
    const read = async (at: number, length: number): Promise<Buffer> => (await file.read(Buffer.alloc(length), 0, length, at)).buffer;
    const header = await read(0, 8);
    if (header.toString('latin1', 0, 2) !== 'II' || header.readUInt16LE(2) !== 42)
      throw new RangeError('This is no little-endian TIFF file');
    const first = header.readUInt32LE(4);
    const count = (await read(first, 2)).readUInt16LE(0);
    const raw = await read(first + 2, count * ENTRY);
    // Values stay where they are in the file: an entry's last four bytes are either that place or the value.
    const own = Array.from({ length: count }, (_, i) => raw.subarray(i * ENTRY, (i + 1) * ENTRY));
    const owned = new Set(own.map((entry) => entry.readUInt16LE(0)));
    const added = camera.filter(({ tag }) => OWN.has(tag) && !owned.has(tag));

    const parts: Buffer[] = [Buffer.alloc(size % 2)];
    let at = size + (size % 2);
    for (const tag of Object.values(POINTERS)) {
      const found = camera.find((entry) => entry.tag === tag);
      if (!found) continue;
      const entries = entriesOf(tree, found.bytes.readUInt32LE(0)).filter((entry) => !LEFT.has(entry.tag));
      const directory = directoryAt(entries, at);
      added.push(pointer(tag, at));
      parts.push(directory);
      at += directory.length;
    }
    // The file's own entries as they are, with the new ones among them in the order of their tags.
    const extra = directoryAt(added, at + own.length * ENTRY);
    const head = Buffer.alloc(2);
    head.writeUInt16LE(own.length + added.length);
    const addedRaw = added.map((_, i) => extra.subarray(2 + i * ENTRY, 2 + (i + 1) * ENTRY));
    const merged = [...own, ...addedRaw].sort((a, b) => a.readUInt16LE(0) - b.readUInt16LE(0));
    parts.push(head, ...merged, Buffer.alloc(4), extra.subarray(2 + added.length * ENTRY + 4));
    await file.write(Buffer.concat(parts), 0, undefined, size);
    header.writeUInt32LE(at, 4);
    await file.write(header, 0, 8, 0);
  } finally {
    await file.close();
  }
}
