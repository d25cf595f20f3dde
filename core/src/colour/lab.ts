/** CIELAB and CIE LCh for readouts, D50 white, as CSS Color 4 defines them (Bradford adaptation from D65). */
import { cubeRoot } from './oklab.ts';
import { inverse, times } from '../base/matrix.ts';
import type { ColourSpace } from '../base/space.ts';
import type { Colour } from './colour.ts';
import { decode } from './transfer.ts';

export interface Lab {
  l: number;
  a: number;
  b: number;
}
export interface Lch {
  l: number;
  c: number;
  h: number;
}

/** D50 white point, CSS Color 4 section 10.1: chromaticity 0.3457, 0.3585. */
const WHITE = [0.3457 / 0.3585, 1, (1 - 0.3457 - 0.3585) / 0.3585] as const;

const EPSILON = 216 / 24389;
const KAPPA = 24389 / 27;
const f = (t: number): number => (t > EPSILON ? Math.cbrt(t) : (KAPPA * t + 16) / 116);

/**
 * Encoded RGB (nominal 0..1) to CIELAB D50: L 0..100.
 * @example
 * Math.round(rgbToLab(srgb, 0.5, 0.5, 0.5).l); // → 53
 */
export function rgbToLab({ toLight, toXyzD50 }: ColourSpace, r: number, g: number, b: number): Lab {
  const rgb = [toLight(r), toLight(g), toLight(b)] as const;
  const [x, y, z] = toXyzD50.map((row, i) => f((row[0] * rgb[0] + row[1] * rgb[1] + row[2] * rgb[2]) / WHITE[i]!)) as [
    number,
    number,
    number,
  ];
  return { l: 116 * y - 16, a: 500 * (x - y), b: 200 * (y - z) };
}

/**
 * CIELAB D50 to encoded RGB: {@link rgbToLab} the other way. Outside 0..1 where the space does not hold the colour.
 * @example
 * labToRgb(srgb, rgbToLab(srgb, 0.2, 0.4, 0.6)).map((v) => v.toFixed(3)); // → ['0.200', '0.400', '0.600']
 */
export function labToRgb({ fromLight, toXyzD50 }: ColourSpace, { l, a, b }: Lab): Colour {
  const y = (l + 16) / 116;
  const back = (t: number): number => (t ** 3 > EPSILON ? t ** 3 : (116 * t - 16) / KAPPA);
  const xyz = [back(y + a / 500) * WHITE[0], l > 8 ? y ** 3 : l / KAPPA, back(y - b / 200) * WHITE[2]] as const;
  return times(inverse(toXyzD50), xyz).map(fromLight) as Colour;
}

/** CIELAB to its cylinder: C >= 0, hue 0..360 degrees; the hue of a grey is 0. */
export function labToLch({ l, a, b }: Lab): Lch {
  const c = Math.hypot(a, b);
  return { l, c, h: c < 0.015 ? 0 : ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360 };
}

/** {@link rgbToLab} for pixel loops: by tables, close enough for masks and channels. @param out receives L, a, b */
export function labOf({ tables, toXyzD50: m }: ColourSpace, r: number, g: number, b: number, out: Float64Array): void {
  const lr = decode(tables, r);
  const lg = decode(tables, g);
  const lb = decode(tables, b);
  const x = fast((m[0][0] * lr + m[0][1] * lg + m[0][2] * lb) / WHITE[0]);
  const y = fast(m[1][0] * lr + m[1][1] * lg + m[1][2] * lb);
  const z = fast((m[2][0] * lr + m[2][1] * lg + m[2][2] * lb) / WHITE[2]);
  out[0] = 116 * y - 16;
  out[1] = 500 * (x - y);
  out[2] = 200 * (y - z);
}

const fast = (t: number): number => (t > EPSILON ? cubeRoot(t) : (KAPPA * t + 16) / 116);
