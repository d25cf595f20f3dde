/** Values of EXIF blocks (CIPA DC-008, Exif 2.32; TIFF 6.0), read with bounds: a block of any content costs no more than its wanted values. */

/** Bytes of a value, by type: BYTE, ASCII, SHORT, LONG, RATIONAL, SLONG, SRATIONAL, UTF-8. */
const BYTES: Record<number, number> = { 1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 9: 4, 10: 8, 129: 1 };
const TEXT: readonly number[] = [2, 129];
const EXIF_DIRECTORY = 0x8769;
const ENTRY = 12;
/** Entries of a directory that are looked at, and bytes of one value. */
const ENTRIES = 1000;
const LONGEST = 1 << 16;

/**
 * The first value of each wanted tag of the first directory and of EXIF's own; texts whole, without what follows a zero.
 * @param block as files hold it, with "Exif" before the tree or without
 * @returns what of them is there; nothing of a block that is damaged
 */
export function exifValues(block: Uint8Array, wanted: ReadonlySet<number>): Map<number, string | number> {
  const bytes = Buffer.from(block.buffer, block.byteOffset, block.byteLength);
  const tree = bytes.toString('latin1', 0, 4) === 'Exif' ? bytes.subarray(6) : bytes;
  const found = new Map<number, string | number>();
  const order = tree.toString('latin1', 0, 2);
  if (tree.length < 8 || (order !== 'II' && order !== 'MM')) return found;
  const little = order === 'II';
  const u16 = (at: number): number => (little ? tree.readUInt16LE(at) : tree.readUInt16BE(at));
  const u32 = (at: number): number => (little ? tree.readUInt32LE(at) : tree.readUInt32BE(at));
  const i32 = (at: number): number => (little ? tree.readInt32LE(at) : tree.readInt32BE(at));
  const numberAt = (type: number, at: number): number => {
    if (type === 1) return tree.readUInt8(at);
    if (type === 3) return u16(at);
    if (type === 5) return u32(at) / u32(at + 4);
    if (type === 9) return i32(at);
    if (type === 10) return i32(at) / i32(at + 4);
    return u32(at);
  };
  const read = (directory: number): number => {
    let further = 0;
    const count = Math.min(ENTRIES, u16(directory), Math.floor((tree.length - directory - 2) / ENTRY));
    for (let i = 0, entry = directory + 2; i < count; i++, entry += ENTRY) {
      const [tag, type, values] = [u16(entry), u16(entry + 2), u32(entry + 4)];
      if (tag === EXIF_DIRECTORY) further = u32(entry + 8);
      const length = (BYTES[type] ?? 0) * values;
      if (!wanted.has(tag) || found.has(tag) || length === 0 || length > LONGEST) continue;
      const at = length > 4 ? u32(entry + 8) : entry + 8;
      if (at + length > tree.length) continue;
      const value = TEXT.includes(type) ? tree.toString('utf8', at, at + length).split('\0')[0]! : numberAt(type, at);
      found.set(tag, value);
    }
    return further;
  };
  try {
    const further = read(u32(4));
    if (further > 0 && further + 2 <= tree.length) read(further);
  } catch (error) {
    // A directory that lies outside of the block: what was found before stands.
    if (!(error instanceof RangeError)) throw error;
  }
  return found;
}
