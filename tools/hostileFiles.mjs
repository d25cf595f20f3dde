/** Files whose structure is sound and whose numbers are not: each names the same bytes again and again, or lies far outside of everything. */
import { crc32 } from 'node:zlib';
import sharp from 'sharp';

const header = Buffer.from([0x49, 0x49, 42, 0, 8, 0, 0, 0]);

/** A directory of a little-endian TIFF. @param entries as [tag, type, count, value] */
export function directory(entries, next = 0) {
  const bytes = Buffer.alloc(2 + entries.length * 12 + 4);
  bytes.writeUInt16LE(entries.length, 0);
  for (const [i, [tag, type, count, value]] of entries.entries()) {
    bytes.writeUInt16LE(tag, 2 + i * 12);
    bytes.writeUInt16LE(type, 4 + i * 12);
    bytes.writeUInt32LE(count, 6 + i * 12);
    bytes.writeUInt32LE(value, 10 + i * 12);
  }
  bytes.writeUInt32LE(next, bytes.length - 4);
  return bytes;
}

const picture = () => sharp({ create: { width: 64, height: 48, channels: 3, background: '#a05030' } });

async function pngWith(type, data) {
  const png = await picture().png().toBuffer();
  const head = Buffer.alloc(8);
  head.writeUInt32BE(data.length, 0);
  head.write(type, 4, 'latin1');
  const end = Buffer.alloc(4);
  end.writeUInt32BE(crc32(Buffer.concat([head.subarray(4), data])), 0);
  return Buffer.concat([png.subarray(0, 33), head, data, end, png.subarray(33)]);
}

/** An EXIF block whose entries all name the same bytes. */
export function exifBomb(entries, bytes) {
  const own = 8 + 2 + 12 + 4;
  const at = own + 2 + entries * 12 + 4;
  const list = Array.from({ length: entries }, (_, i) => [0x9000 + (i % 0x1000), [1, 2, 7][i % 3], bytes, at]);
  return Buffer.concat([header, directory([[0x8769, 4, 1, own]]), directory(list), Buffer.alloc(bytes, 65)]);
}

const packet = (inside) =>
  `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">${inside}</rdf:RDF></x:xmpmeta>`;

/** A TIFF with blocks of metadata in its directory. */
const tiffWith = (entries, blocks) => {
  const pixels = Buffer.alloc(64 * 48 * 3, 120);
  const list = [
    [256, 3, 1, 64],
    [257, 3, 1, 48],
    [258, 3, 1, 8],
    [259, 3, 1, 1],
    [262, 3, 1, 2],
    [277, 3, 1, 3],
    [278, 3, 1, 48],
    [279, 4, 1, pixels.length],
    ...entries,
  ];
  const at = 8 + 2 + (list.length + 1) * 12 + 4;
  let next = at + pixels.length;
  const placed = list.map(([tag, type, count, value]) => {
    if (!Buffer.isBuffer(value)) return [tag, type, count, value];
    next += value.length;
    return [tag, type, count, next - value.length];
  });
  const sorted = [...placed, [273, 4, 1, at]].sort(([a], [b]) => a - b);
  return Buffer.concat([header, directory(sorted), pixels, ...blocks]);
};
const withBlock = (tag, block) => tiffWith([[tag, 7, block.length, block]], [block]);

/** By what they try. */
export const hostileFiles = {
  async 'TIFF: one array named 4000 times'() {
    const bomb = directory(Array.from({ length: 4000 }, () => [273, 4, 1 << 20, 65_536]));
    return Buffer.concat([header, bomb, Buffer.alloc(65_536 - 8 - bomb.length), Buffer.alloc(4 << 20)]);
  },
  async 'TIFF: 64 pages, each with its own array'() {
    const pages = [];
    for (let i = 0; i < 64; i++)
      pages.push(directory([[273, 4, 1 << 20, 65_536], [279, 4, 1 << 20, 65_536]], i < 63 ? 8 + (i + 1) * 30 : 0)); // prettier-ignore
    const chain = Buffer.concat(pages);
    return Buffer.concat([header, chain, Buffer.alloc(65_536 - 8 - chain.length), Buffer.alloc(4 << 20)]);
  },
  'PNG: EXIF with 300 values over one megabyte': () => pngWith('eXIf', exifBomb(300, 1 << 20)),
  'PNG: EXIF with 4000 values over four megabytes': () => pngWith('eXIf', exifBomb(4000, 4_000_000)),
  async 'TIFF: IPTC of a million empty keywords'() {
    const block = Buffer.alloc(4_000_000);
    for (let i = 0; i + 5 <= block.length; i += 5) [block[i], block[i + 1], block[i + 2]] = [0x1c, 2, 25];
    return withBlock(33_723, block);
  },
  async 'TIFF: XMP of open elements'() {
    return withBlock(700, Buffer.from(packet('<xmp:Thumbnails>'.repeat(200_000))));
  },
  async 'TIFF: XMP nested 50 000 deep'() {
    return withBlock(700, Buffer.from(packet('<a>'.repeat(50_000) + '</a>'.repeat(50_000))));
  },
  async 'TIFF: XMP of four megabytes of small elements'() {
    return withBlock(700, Buffer.from(packet('<dc:creator>x</dc:creator>'.repeat(150_000))));
  },
  async 'DNG that is none: 64 directories within'() {
    const list = [[330, 4, 1 << 20, 65_536], [50_706, 1, 4, 1]]; // prettier-ignore
    return Buffer.concat([header, directory(list), Buffer.alloc(65_536 - 8 - 30), Buffer.alloc(4 << 20, 8)]);
  },
};

/** Strokes that go far out of the photograph and back. */
export const farStroke = (points, size) => ({
  ...{ id: 's', size, hardness: 1, flow: 1, opacity: 1, erase: false },
  points: Array.from({ length: points }, (_, i) => (i % 2 ? [1e6, 1e6, 1] : [-1e6, -1e6, 1])).flat(),
});
