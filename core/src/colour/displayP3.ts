import type { Planes } from '../base/planes.ts';
import { srgb } from './spaces.ts';
import { decode, encode } from './transfer.ts';

// Linear sRGB to linear Display P3: the two D65 matrices of CSS Color 4 (sections 10.2 and 10.4), multiplied out.
const M = [
  [0.8224619687, 0.1775380313, 0],
  [0.0331941989, 0.9668058011, 0],
  [0.0170826307, 0.0723974407, 0.9105199286],
] as const;

/** Turns `n` pixels from encoded sRGB into encoded Display P3 in place; both share one transfer curve. */
export function displayP3FromSrgb({ r, g, b }: Planes, n: number): void {
  const { tables } = srgb;
  for (let i = 0; i < n; i++) {
    const x = decode(tables, r[i]!);
    const y = decode(tables, g[i]!);
    const z = decode(tables, b[i]!);
    r[i] = encode(tables, M[0][0] * x + M[0][1] * y);
    g[i] = encode(tables, M[1][0] * x + M[1][1] * y);
    b[i] = encode(tables, M[2][0] * x + M[2][1] * y + M[2][2] * z);
  }
}
