/** Changes of light itself. */
import type { Matrix } from '../base/matrix.ts';
import { acceleration } from '../base/acceleration.ts';
import type { Planes } from '../base/planes.ts';
import { decodeSrgb, encodeSrgb } from './transfer.ts';

/** Multiplies the first `n` pixels (encoded sRGB) with a matrix in linear light and adds an offset to every channel, in place. */
export function inLight(pixels: Planes, n: number, matrix: Matrix, offset: number): void {
  (acceleration?.inLight ?? inLightDefined)(pixels, n, matrix, offset);
}

/** The definition of {@link Acceleration.inLight}. */
export function inLightDefined({ r, g, b }: Planes, n: number, matrix: Matrix, offset: number): void {
  const [[m00, m01, m02], [m10, m11, m12], [m20, m21, m22]] = matrix;
  for (let i = 0; i < n; i++) {
    const x = decodeSrgb(r[i]!);
    const y = decodeSrgb(g[i]!);
    const z = decodeSrgb(b[i]!);
    r[i] = encodeSrgb(m00 * x + m01 * y + m02 * z + offset);
    g[i] = encodeSrgb(m10 * x + m11 * y + m12 * z + offset);
    b[i] = encodeSrgb(m20 * x + m21 * y + m22 * z + offset);
  }
}
