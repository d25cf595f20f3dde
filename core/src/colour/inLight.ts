/** Changes of light itself. */
import type { Matrix } from '../base/matrix.ts';
import { acceleration } from '../base/acceleration.ts';
import type { ColourSpace } from '../base/space.ts';
import type { Planes } from '../base/planes.ts';
import { decode, encode } from './transfer.ts';

/** Multiplies the first `n` pixels (encoded RGB) with a matrix in linear light and adds an offset to every channel, in place. */
export function inLight(space: ColourSpace, pixels: Planes, n: number, matrix: Matrix, offset: number): void {
  (acceleration?.inLight ?? inLightDefined)(space, pixels, n, matrix, offset);
}

/** The definition of {@link Acceleration.inLight}. */
export function inLightDefined({ tables }: ColourSpace, { r, g, b }: Planes, n: number, matrix: Matrix, offset: number): void {
  const [[m00, m01, m02], [m10, m11, m12], [m20, m21, m22]] = matrix;
  for (let i = 0; i < n; i++) {
    const x = decode(tables, r[i]!);
    const y = decode(tables, g[i]!);
    const z = decode(tables, b[i]!);
    r[i] = encode(tables, m00 * x + m01 * y + m02 * z + offset);
    g[i] = encode(tables, m10 * x + m11 * y + m12 * z + offset);
    b[i] = encode(tables, m20 * x + m21 * y + m22 * z + offset);
  }
}
