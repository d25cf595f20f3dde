/** CIELAB and CIE LCh for readouts, D50 white, as CSS Color 4 defines them (Bradford adaptation from D65). */
import { cubeRoot } from './oklab.ts';
import { decodeSrgb, srgbToLinear } from './transfer.ts';

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

// Linear sRGB to XYZ relative to D50: the D65 matrix of CSS Color 4 followed by its Bradford matrix, multiplied out.
const TO_XYZ_D50 = [
  [0.43606574687427, 0.38515150959016, 0.14307841996514],
  [0.22249317711057, 0.71688701309448, 0.0606198097949524],
  [0.0139239214631694, 0.0970813242314102, 0.714099356815881],
] as const;

const EPSILON = 216 / 24389;
const KAPPA = 24389 / 27;
const f = (t: number): number => (t > EPSILON ? Math.cbrt(t) : (KAPPA * t + 16) / 116);

/** Encoded sRGB (nominal 0..1) to CIELAB D50: L 0..100. */
export function srgbToLab(r: number, g: number, b: number): Lab {
  const rgb = [srgbToLinear(r), srgbToLinear(g), srgbToLinear(b)] as const;
  const [x, y, z] = TO_XYZ_D50.map((row, i) => f((row[0] * rgb[0] + row[1] * rgb[1] + row[2] * rgb[2]) / WHITE[i]!)) as [
    number,
    number,
    number,
  ];
  return { l: 116 * y - 16, a: 500 * (x - y), b: 200 * (y - z) };
}

/** CIELAB to its cylinder: C >= 0, hue 0..360 degrees; the hue of a grey is 0. */
export function labToLch({ l, a, b }: Lab): Lch {
  const c = Math.hypot(a, b);
  return { l, c, h: c < 0.015 ? 0 : ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360 };
}

/** {@link srgbToLab} for pixel loops: by tables, close enough for masks and channels. @param out receives L, a, b */
export function labOf(r: number, g: number, b: number, out: Float64Array): void {
  const lr = decodeSrgb(r);
  const lg = decodeSrgb(g);
  const lb = decodeSrgb(b);
  const x = fast((TO_XYZ_D50[0][0] * lr + TO_XYZ_D50[0][1] * lg + TO_XYZ_D50[0][2] * lb) / WHITE[0]);
  const y = fast(TO_XYZ_D50[1][0] * lr + TO_XYZ_D50[1][1] * lg + TO_XYZ_D50[1][2] * lb);
  const z = fast((TO_XYZ_D50[2][0] * lr + TO_XYZ_D50[2][1] * lg + TO_XYZ_D50[2][2] * lb) / WHITE[2]);
  out[0] = 116 * y - 16;
  out[1] = 500 * (x - y);
  out[2] = 200 * (y - z);
}

const fast = (t: number): number => (t > EPSILON ? cubeRoot(t) : (KAPPA * t + 16) / 116);
