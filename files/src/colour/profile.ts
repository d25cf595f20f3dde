/** ICC profiles of our own spaces, made by their definitions: a matrix and a curve (ICC.1:2022, sections 8.3 and 9.2). */
import { adaptation } from '@umbo/core/colour';
import { multiply, type ColourSpace, type Matrix } from '@umbo/core/base';

/** The white of the profile connection space: ICC.1:2022, section 7.2.16. */
const D50 = [0.9642, 1, 0.8249] as const;
const D50_XY = [D50[0] / (D50[0] + 1 + D50[2]), 1 / (D50[0] + 1 + D50[2])] as const;
const VERSION = 0x04300000;
const HEADER = 128;

const ascii = (text: string): Buffer => Buffer.from(text, 'latin1');
const u32 = (...values: number[]): Buffer => fourEach(values, (out, v, at) => out.writeUInt32BE(v, at));
/** Numbers with sixteen bits behind the point. */
const fixed = (...values: number[]): Buffer => fourEach(values, (out, v, at) => out.writeInt32BE(Math.round(v * 65536), at));

function fourEach(values: readonly number[], write: (out: Buffer, value: number, at: number) => void): Buffer {
  const out = Buffer.alloc(4 * values.length);
  values.forEach((v, i) => write(out, v, 4 * i));
  return out;
}

const xyzTag = (...xyz: number[]): Buffer => Buffer.concat([ascii('XYZ '), u32(0), fixed(...xyz)]);

function textTag(text: string): Buffer {
  const utf16 = Buffer.from(text, 'utf16le').swap16();
  return Buffer.concat([ascii('mluc'), u32(0, 1, 12), ascii('enUS'), u32(utf16.length, 28), utf16]);
}

/** A parametricCurveType: a power, or one with a straight line next to black. */
function curveTag({ exponent, slope, from, offset }: ColourSpace['curve']): Buffer {
  const [kind, values] = from > 0 ? [3, [exponent, 1 / (1 + offset), offset / (1 + offset), 1 / slope, from]] : [0, [exponent]];
  return Buffer.concat([ascii('para'), u32(0, kind << 16), fixed(...values)]);
}

/**
 * A display profile of a space.
 * @param curve another curve than its own, such as none at all for a profile of its light
 */
export function profileOf({ name, white, toXyz, curve: own }: ColourSpace, curve = own): Uint8Array {
  const adapted: Matrix = multiply(adaptation(white, D50_XY), toXyz);
  const column = (i: 0 | 1 | 2): Buffer => xyzTag(...adapted.map((row) => row[i]));
  const trc = curveTag(curve);
  const tags: [string, Buffer][] = [
    ['desc', textTag(name)],
    ['cprt', textTag('CC0')],
    ['wtpt', xyzTag(...D50)],
    ['chad', Buffer.concat([ascii('sf32'), u32(0), fixed(...adaptation(white, D50_XY).flat())])],
    ['rXYZ', column(0)],
    ['gXYZ', column(1)],
    ['bXYZ', column(2)],
    ['rTRC', trc],
    ['gTRC', trc],
    ['bTRC', trc],
  ];
  return assemble(tags);
}

function assemble(tags: readonly [string, Buffer][]): Uint8Array {
  const table: Buffer[] = [u32(tags.length)];
  const blocks: Buffer[] = [];
  const places = new Map<Buffer, number>();
  let end = HEADER + 4 + 12 * tags.length;
  for (const [tag, block] of tags) {
    let at = places.get(block);
    if (at === undefined) {
      places.set(block, (at = end));
      const padded = Buffer.concat([block, Buffer.alloc(-block.length & 3)]);
      blocks.push(padded);
      end += padded.length;
    }
    table.push(ascii(tag), u32(at, block.length));
  }
  const header = Buffer.alloc(HEADER);
  header.writeUInt32BE(end, 0);
  header.writeUInt32BE(VERSION, 8);
  header.write('mntrRGB XYZ ', 12, 'latin1');
  // A date is asked for; the same space always gives the same bytes.
  [2026, 1, 1].forEach((v, i) => header.writeUInt16BE(v, 24 + 2 * i));
  header.write('acsp', 36, 'latin1');
  fixed(...D50).copy(header, 68);
  return new Uint8Array(Buffer.concat([header, ...table, ...blocks]));
}
