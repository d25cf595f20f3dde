import { clamp } from '../base/number.ts';
import { cleanName, shorten } from '../base/names.ts';
import { Type, type Static, type TSchema } from '@sinclair/typebox';
import { CUBE_SIZES, type CubeLut } from '../format/cube.ts';
import { acceleration, type Lattice } from '../base/acceleration.ts';
import type { Planes } from '../base/planes.ts';
import type { Adjustment } from './adjustment.ts';
import { strict } from './range.ts';
import { madeOnce } from '../base/madeOnce.ts';

const bound = Type.Unsafe<[number, number, number]>(
  Type.Array(Type.Number({ minimum: -16, maximum: 16 }), { minItems: 3, maxItems: 3 }) as unknown as TSchema,
);
const schema = Type.Object(
  {
    /** As in the file that it came from. */
    title: Type.String({ maxLength: 120 }),
    /** Points along each side. */
    size: Type.Integer({ minimum: CUBE_SIZES[0], maximum: CUBE_SIZES[1] }),
    min: bound,
    max: bound,
    /** The table: size^3 times red, green, blue as 16-bit numbers, big-endian, in base 64; 0 stands for -1, 65535 for 2. */
    table: Type.String({ maxLength: 2_300_000, pattern: '^[A-Za-z0-9+/]*={0,2}$' }),
  },
  strict,
);
export type Lut3dSettings = Static<typeof schema>;

const LOW = -1;
const SPAN = 3;

/** A table in the form in which documents hold it. */
export function lutSettings({ title, size, min, max, values }: CubeLut): Lut3dSettings {
  let bytes = '';
  for (const v of values) {
    const n = Math.round(Math.max(0, Math.min(1, (v - LOW) / SPAN)) * 65535);
    bytes += String.fromCharCode(n >> 8, n & 255);
  }
  return { title: shorten(cleanName(title), 120), size, min: [...min], max: [...max], table: btoa(bytes) };
}

/** The way back from {@link lutSettings}. A table of the wrong length is filled up with black. */
export const lutOf = madeOnce(({ title, size, min, max, table }: Lut3dSettings): CubeLut => {
  const bytes = atob(table);
  const values = new Float32Array(size ** 3 * 3);
  for (let i = 0; i < values.length && 2 * i + 1 < bytes.length; i++)
    values[i] = LOW + (((bytes.charCodeAt(2 * i) << 8) | bytes.charCodeAt(2 * i + 1)) / 65535) * SPAN;
  return { title, size, min, max, values };
});

/** The table that changes nothing. */
export function identityLut(size: number): CubeLut {
  const values = new Float32Array(size ** 3 * 3);
  for (let i = 0; i < size ** 3; i++) {
    values[i * 3] = (i % size) / (size - 1);
    values[i * 3 + 1] = (Math.floor(i / size) % size) / (size - 1);
    values[i * 3 + 2] = Math.floor(i / (size * size)) / (size - 1);
  }
  return { title: '', size, min: [0, 0, 0], max: [1, 1, 1], values };
}

/** Sends the first `n` pixels through a table of colours, in place. */
export const throughLattice = (pixels: Planes, n: number, lattice: Lattice): void =>
  (acceleration?.throughLut ?? throughLut)(pixels, n, lattice);

/**
 * The definition of {@link Acceleration.throughLut}: interpolated in the tetrahedron of the cell that a colour lies in. J. M. Kasson
 * et al., "Performing color space conversions with three-dimensional linear interpolation" (Journal of Electronic Imaging 4, 1995).
 */
export function throughLut({ r, g, b }: Planes, n: number, { size, min, max, values }: Lattice): void {
  const last = size - 1;
  const [sx, sy, sz] = [0, 1, 2].map((c) => last / (max[c]! - min[c]!)) as [number, number, number];
  const [stepY, stepZ] = [size * 3, size * size * 3];
  for (let i = 0; i < n; i++) {
    const x = clamp((r[i]! - min[0]) * sx, 0, last);
    const y = clamp((g[i]! - min[1]) * sy, 0, last);
    const z = clamp((b[i]! - min[2]) * sz, 0, last);
    const kx = x < last ? x | 0 : last - 1;
    const ky = y < last ? y | 0 : last - 1;
    const kz = z < last ? z | 0 : last - 1;
    const fx = x - kx;
    const fy = y - ky;
    const fz = z - kz;
    const at = kx * 3 + ky * stepY + kz * stepZ;
    // From black's corner to white's, along the edges in the order of the fractions: the largest first, the least last.
    const f1 = fx > fy ? (fx > fz ? fx : fz) : fy > fz ? fy : fz;
    const f3 = fx < fy ? (fx < fz ? fx : fz) : fy < fz ? fy : fz;
    const f2 = fx + fy + fz - f1 - f3;
    const first = fx === f1 ? 3 : fy === f1 ? stepY : stepZ;
    const least = fz === f3 ? stepZ : fy === f3 ? stepY : 3;
    const third = 3 + stepY + stepZ;
    const second = third - least;
    const w0 = 1 - f1;
    const w1 = f1 - f2;
    const w2 = f2 - f3;
    r[i] = values[at]! * w0 + values[at + first]! * w1 + values[at + second]! * w2 + values[at + third]! * f3;
    g[i] = values[at + 1]! * w0 + values[at + first + 1]! * w1 + values[at + second + 1]! * w2 + values[at + third + 1]! * f3;
    b[i] = values[at + 2]! * w0 + values[at + first + 2]! * w1 + values[at + second + 2]! * w2 + values[at + third + 2]! * f3;
  }
}

/** Colours by a table. */
export const lut3d: Adjustment<'lut3d', Lut3dSettings> = {
  kind: 'lut3d',
  name: '3D LUT',
  explains: 'A look from a table, a .cube file',
  group: 'A look',
  schema,
  defaults: { title: '', size: 2, min: [0, 0, 0], max: [1, 1, 1], table: lutSettings(identityLut(2)).table },
  controls: [],
  isNeutral: ({ title, size }) => size === 2 && title === '',
  weight: ({ table }) => ({ tables: table.length }),
  apply(settings, pixels, n) {
    throughLattice(pixels, n, lutOf(settings));
  },
};
