/**
 * White points of light by correlated colour temperature, and what takes one to another.
 * Daylight: CIE 15:2018, section 4.1.2, x_D and y_D, 4000 to 25000 K. Below that: the Planckian locus by the cubic approximation of
 * Kim et al., "Design of advanced color temperature control system for HDTV applications" (2002, coefficients from memory), 1667 to 4000 K.
 * Adaptation: Bradford, its matrix as CSS Color 4, section 18 uses it.
 */
import { multiply, times, type Matrix, type Row } from '../base/matrix.ts';
import type { Colour } from './colour.ts';
import type { Chromaticity, ColourSpace } from '../base/space.ts';

const daylight = (t: number): Chromaticity => {
  const x =
    t <= 7000
      ? -4.607e9 / t ** 3 + 2.9678e6 / t ** 2 + 0.09911e3 / t + 0.244063
      : -2.0064e9 / t ** 3 + 1.9018e6 / t ** 2 + 0.24748e3 / t + 0.23704;
  return [x, -3 * x * x + 2.87 * x - 0.275];
};
const planckian = (t: number): Chromaticity => {
  const x = -0.2661239e9 / t ** 3 - 0.2343589e6 / t ** 2 + 0.8776956e3 / t + 0.17991;
  return [
    x,
    t < 2222
      ? -1.1063814 * x ** 3 - 1.3481102 * x ** 2 + 2.18555832 * x - 0.20219683
      : -0.9549476 * x ** 3 - 1.37418593 * x ** 2 + 2.09137015 * x - 0.16748867,
  ];
};

/** Where the one locus passes into the other; the difference between them fades out over what lies below. */
const PASSAGE = 4000;
const FADED = 2500;

/** The light that nothing has to be corrected for: D65. */
export const NEUTRAL_KELVIN = 6504;
export const KELVIN_BOUNDS = [2000, 25000] as const;
/** Distance in CIE 1960 (u, v) from the locus, at right angles to it, of a tint of 100. */
const TINT = 0.02;

function locus(kelvin: number): Chromaticity {
  if (kelvin >= PASSAGE) return daylight(kelvin);
  const [p, end, begin] = [planckian(kelvin), daylight(PASSAGE), planckian(PASSAGE)];
  const share = Math.max(0, (kelvin - FADED) / (PASSAGE - FADED));
  return [p[0] + (end[0] - begin[0]) * share, p[1] + (end[1] - begin[1]) * share];
}

const uvOf = ([x, y]: Chromaticity): [number, number] => [(4 * x) / (12 * y - 2 * x + 3), (6 * y) / (12 * y - 2 * x + 3)];
const xyOf = ([u, v]: readonly [number, number]): Chromaticity => [(3 * u) / (2 * u - 8 * v + 4), (2 * v) / (2 * u - 8 * v + 4)];

/** The locus in (u, v), and the direction at right angles to it, towards green. */
function frame(kelvin: number): { at: [number, number]; across: [number, number] } {
  const at = uvOf(locus(kelvin));
  const mired = 1e6 / kelvin;
  const [near, far] = [uvOf(locus(1e6 / (mired - 0.5))), uvOf(locus(1e6 / (mired + 0.5)))];
  const [du, dv] = [far[0] - near[0], far[1] - near[1]];
  const size = Math.hypot(du, dv);
  return { at, across: [-dv / size, du / size] };
}

/**
 * The chromaticity of light.
 * @param kelvin 2000..25000
 * @param tint above 0 towards green, below 0 towards magenta
 */
export function whitePoint(kelvin: number, tint: number): Chromaticity {
  const { at, across } = frame(kelvin);
  const side = across[1] > 0 ? 1 : -1;
  return xyOf([at[0] + (side * across[0] * tint * TINT) / 100, at[1] + (side * across[1] * tint * TINT) / 100]);
}

/** The light under which something neutral has this chromaticity; held within what can be set. */
function lightOf(xy: Chromaticity): { kelvin: number; tint: number } {
  const [u, v] = uvOf(xy);
  // The nearest point of the locus, in steps of mired and then finer ones.
  const distance = (mired: number): number => {
    const [lu, lv] = uvOf(locus(1e6 / mired));
    return Math.hypot(u - lu, v - lv);
  };
  let mired = 40;
  for (let m = 40; m <= 500; m++) if (distance(m) < distance(mired)) mired = m;
  for (let step = 0.5; step > 1e-4; step /= 2)
    for (const m of [mired - step, mired + step]) if (m >= 40 && m <= 500 && distance(m) < distance(mired)) mired = m;
  const { at, across } = frame(1e6 / mired);
  const side = across[1] > 0 ? 1 : -1;
  const tint = ((u - at[0]) * across[0] + (v - at[1]) * across[1]) * side * (100 / TINT);
  return { kelvin: 1e6 / mired, tint: Math.max(-150, Math.min(150, tint)) };
}

export const xyz = ([x, y]: Chromaticity): Row => [x / y, 1, (1 - x - y) / y];

const BRADFORD: Matrix = [
  [0.8951, 0.2664, -0.1614],
  [-0.7502, 1.7135, 0.0367],
  [0.0389, -0.0685, 1.0296],
];
const FROM_BRADFORD: Matrix = [
  [0.9869929054667123, -0.14705425642099013, 0.15996265166373125],
  [0.43230526972339456, 0.5183602715367776, 0.0492912282128556],
  [-0.008528664575177328, 0.04004282165408487, 0.9684866957875502],
];
/** XYZ under one light to what looks the same under another: Bradford adaptation. */
export function adaptation(from: Chromaticity, to: Chromaticity): Matrix {
  const [a, b] = [times(BRADFORD, xyz(from)), times(BRADFORD, xyz(to))];
  const scale: Matrix = [
    [b[0] / a[0], 0, 0],
    [0, b[1] / a[1], 0],
    [0, 0, b[2] / a[2]],
  ];
  return multiply(FROM_BRADFORD, multiply(scale, BRADFORD));
}

/** The matrix on a space's light that takes what was photographed in one light to D65. */
export const balanceMatrix = ({ toXyz, fromXyz }: ColourSpace, kelvin: number, tint: number): Matrix =>
  multiply(fromXyz, multiply(adaptation(whitePoint(kelvin, tint), whitePoint(NEUTRAL_KELVIN, 0)), toXyz));

/** The light under which a colour (encoded) is a neutral grey; null for one too dark to tell. */
export function lightOfNeutral({ toXyz, toLight }: ColourSpace, colour: Colour): { kelvin: number; tint: number } | null {
  const [x, y, z] = times(toXyz, colour.map(toLight) as unknown as Row);
  const sum = x + y + z;
  if (!(sum > 0.003)) return null;
  // As the photograph's white stands for D65, so do neutral greys in it.
  return lightOf([x / sum, y / sum]);
}
