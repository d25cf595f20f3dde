/** Image files made byte by byte, as standards describe them: what no library here writes. */
import { crc32, deflateSync } from 'node:zlib';

export interface TiffPage {
  width: number;
  height: number;
  /** TIFF 6.0: 1 black is zero, 2 RGB, 8 CIELab. */
  photometric: number;
  samples: number;
  bits?: 8 | 16 | 32;
  /** SampleFormat: 1 whole numbers, 3 floats (TIFF 6.0, section 19). */
  format?: 1 | 3;
  pixels: Buffer;
  /** NewSubfileType; 1: a reduced copy of another page. */
  subfile?: number;
  extraSamples?: number[];
  /** The pixels as they lie in the file, where they are compressed. */
  packed?: Buffer;
  compression?: number;
}

/** A little-endian TIFF (TIFF 6.0) with all directories in front of the pixels; the last one may point anywhere. */
export function tiff(pages: readonly TiffPage[], next = 0): Buffer {
  const entries = (
    page: TiffPage,
    strip: number,
    size: number,
    extra: number,
  ): [tag: number, type: number, values: number[], at?: number][] => {
    const { width, height, photometric, samples, bits = 8, subfile = 0, extraSamples, compression = 1, format = 1 } = page;
    const all: [number, number, number[], number?][] = [
      [254, 4, [subfile]],
      [256, 4, [width]],
      [257, 4, [height]],
      [258, 3, Array.from({ length: samples }, () => bits), extra],
      [259, 3, [compression]],
      [262, 3, [photometric]],
      [273, 4, [strip]],
      [277, 3, [samples]],
      [278, 4, [height]],
      [279, 4, [size]],
      [284, 3, [1]],
    ];
    if (extraSamples) all.push([338, 3, extraSamples, extra + 16]);
    if (format !== 1) all.push([339, 3, Array.from({ length: samples }, () => format), extra + 24]);
    return all;
  };
  const headLength = (page: TiffPage): number => 2 + entries(page, 0, 0, 0).length * 12 + 4 + 32;
  const heads = pages.reduce((sum, page) => sum + headLength(page), 8);
  const file = Buffer.alloc(heads);
  file.write('II*\0', 'latin1');
  file.writeUInt32LE(8, 4);
  let at = 8;
  let strip = heads;
  for (const [i, page] of pages.entries()) {
    const data = page.packed ?? page.pixels;
    const end = at + headLength(page);
    const list = entries(page, strip, data.length, end - 32);
    file.writeUInt16LE(list.length, at);
    for (const [k, [tag, type, values, place]] of list.entries()) {
      const o = at + 2 + k * 12;
      file.writeUInt16LE(tag, o);
      file.writeUInt16LE(type, o + 2);
      file.writeUInt32LE(values.length, o + 4);
      const write = (value: number, to: number): number => (type === 3 ? file.writeUInt16LE(value, to) : file.writeUInt32LE(value, to));
      if (values.length * (type === 3 ? 2 : 4) <= 4) for (const [v, value] of values.entries()) write(value, o + 8 + v * 2);
      else {
        file.writeUInt32LE(place!, o + 8);
        for (const [v, value] of values.entries()) write(value, place! + v * 2);
      }
    }
    file.writeUInt32LE(i + 1 < pages.length ? end : next, at + 2 + list.length * 12);
    at = end;
    strip += data.length;
  }
  return Buffer.concat([file, ...pages.map((page) => page.packed ?? page.pixels)]);
}

function chunk(type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const out = Buffer.alloc(body.length + 8);
  out.writeUInt32BE(data.length);
  body.copy(out, 4);
  out.writeUInt32BE(crc32(body), body.length + 4);
  return out;
}

/** A PNG (Third Edition) of 16-bit RGB samples, with chunks of one's own before the pixels. */
export function png(width: number, height: number, samples: Uint16Array, chunks: readonly [type: string, data: Buffer][] = []): Buffer {
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width);
  head.writeUInt32BE(height, 4);
  head.set([16, 2, 0, 0, 0], 8);
  const rows = Buffer.alloc(height * (1 + width * 6));
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width * 3; x++) rows.writeUInt16BE(samples[i++]!, y * (1 + width * 6) + 1 + x * 2);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', head),
    ...chunks.map(([type, data]) => chunk(type, data)),
    chunk('IDAT', deflateSync(rows)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

/** What an iCCP chunk holds of a profile (PNG Third Edition, section 11.3.2.3). */
export const profileChunk = (profile: Uint8Array): [string, Buffer] => [
  'iCCP',
  Buffer.concat([Buffer.from('test\0\0', 'latin1'), deflateSync(profile)]),
];

type Point = readonly [number, number];
export interface Space {
  white: Point;
  primaries: readonly [Point, Point, Point];
  /** Type and parameters of a parametricCurveType (ICC.1:2022, section 10.18). */
  curve: { type: number; values: readonly number[] };
}
const SRGB_CURVE = { type: 3, values: [2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045] };
const D65: Point = [0.3127, 0.329];
/** Primaries and curves as CSS Color 4, section 10, gives them. */
export const SPACES: Record<'p3' | 'a98rgb' | 'prophoto', Space> = {
  p3: {
    white: D65,
    primaries: [
      [0.68, 0.32],
      [0.265, 0.69],
      [0.15, 0.06],
    ],
    curve: SRGB_CURVE,
  },
  a98rgb: {
    white: D65,
    primaries: [
      [0.64, 0.33],
      [0.21, 0.71],
      [0.15, 0.06],
    ],
    curve: { type: 0, values: [563 / 256] },
  },
  prophoto: {
    white: [0.3457, 0.3585],
    primaries: [
      [0.734699, 0.265301],
      [0.159597, 0.840403],
      [0.036598, 0.000105],
    ],
    curve: { type: 3, values: [1.8, 1, 0, 1 / 16, 16 / 512] },
  },
};

const D50 = [0.9642, 1, 0.8249];
type Matrix = number[][];
const times = (a: Matrix, b: Matrix): Matrix => a.map((row) => b[0]!.map((_, j) => row.reduce((s, v, k) => s + v * b[k]![j]!, 0)));
function inverse(matrix: Matrix): Matrix {
  const [[a, b, c], [d, e, f], [g, h, i]] = matrix as [number[], number[], number[]];
  const t = a! * (e! * i! - f! * h!) - b! * (d! * i! - f! * g!) + c! * (d! * h! - e! * g!);
  return [
    [e! * i! - f! * h!, c! * h! - b! * i!, b! * f! - c! * e!],
    [f! * g! - d! * i!, a! * i! - c! * g!, c! * d! - a! * f!],
    [d! * h! - e! * g!, b! * g! - a! * h!, a! * e! - b! * d!],
  ].map((row) => row.map((v) => v / t));
}
const BRADFORD: Matrix = [
  [0.8951, 0.2664, -0.1614],
  [-0.7502, 1.7135, 0.0367],
  [0.0389, -0.0685, 1.0296],
];

/** A display profile of a space (ICC.1:2022): matrix and curves. */
export function profileOf({ white, primaries, curve }: Space): Buffer {
  const xyz = ([x, y]: Point): number[] => [x / y, 1, (1 - x - y) / y];
  const columns = primaries.map(xyz);
  const unscaled = [0, 1, 2].map((r) => columns.map((column) => column[r]!));
  const scale = times(
    inverse(unscaled),
    xyz(white).map((v) => [v]),
  );
  const toXyz = unscaled.map((row) => row.map((v, j) => v * scale[j]![0]!));
  const [from, to] = [xyz(white), D50].map((w) =>
    times(
      BRADFORD,
      w.map((v) => [v]),
    ).map(([v]) => v!),
  ) as [number[], number[]];
  const adapted = times(
    times(
      inverse(BRADFORD),
      to.map((v, i) => [0, 1, 2].map((j) => (i === j ? v / from[i]! : 0))),
    ),
    times(BRADFORD, toXyz),
  );
  const s15 = (...values: number[]): Buffer => {
    const out = Buffer.alloc(values.length * 4);
    values.forEach((v, i) => out.writeInt32BE(Math.round(v * 65536), i * 4));
    return out;
  };
  const u32 = (...values: number[]): Buffer => {
    const out = Buffer.alloc(values.length * 4);
    values.forEach((v, i) => out.writeUInt32BE(v, i * 4));
    return out;
  };
  const name = Buffer.from('test', 'utf16le').swap16();
  const text = Buffer.concat([Buffer.from('mluc'), u32(0, 1, 12), Buffer.from('enUS'), u32(name.length, 28), name]);
  const para = Buffer.concat([Buffer.from('para'), u32(0), Buffer.from([0, curve.type, 0, 0]), s15(...curve.values)]);
  const column = (j: number): Buffer => Buffer.concat([Buffer.from('XYZ '), u32(0), s15(...adapted.map((row) => row[j]!))]);
  const data: [string, Buffer][] = [
    ['desc', text],
    ['cprt', text],
    ['wtpt', Buffer.concat([Buffer.from('XYZ '), u32(0), s15(...D50)])],
    ['rXYZ', column(0)],
    ['gXYZ', column(1)],
    ['bXYZ', column(2)],
    ...['rTRC', 'gTRC', 'bTRC'].map((tag): [string, Buffer] => [tag, para]),
  ];
  let at = 128 + 4 + data.length * 12;
  const table = [u32(data.length)];
  const blocks: Buffer[] = [];
  for (const [tag, block] of data) {
    const padded = Buffer.concat([block, Buffer.alloc((4 - (block.length % 4)) % 4)]);
    table.push(Buffer.from(tag), u32(at, block.length));
    blocks.push(padded);
    at += padded.length;
  }
  const head = Buffer.alloc(128);
  head.writeUInt32BE(at);
  head.writeUInt32BE(0x04300000, 8);
  head.write('mntrRGB XYZ ', 12, 'latin1');
  head.writeUInt16BE(2026, 24);
  head.writeUInt16BE(1, 26);
  head.writeUInt16BE(1, 28);
  head.write('acsp', 36, 'latin1');
  s15(...D50).copy(head, 68);
  return Buffer.concat([head, ...table, ...blocks]);
}
