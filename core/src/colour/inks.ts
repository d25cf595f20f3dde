/**
 * Amounts of the four process inks. From a table over encoded sRGB, made at build time through the CMYK profile that libvips
 * brings, which stands for a general offset print on coated paper; between its entries trilinear.
 */
import { INK_SIDE as SIDE, inksHex } from './inks.gen.ts';

const table = Float32Array.from({ length: inksHex.length / 2 }, (_, i) => parseInt(inksHex.slice(i * 2, i * 2 + 2), 16) / 255);

/** @param out receives cyan, magenta, yellow, black, 0..1 each @param r encoded sRGB within 0..1, as are g and b */
export function inksOf(r: number, g: number, b: number, out: Float64Array): void {
  const last = SIDE - 1;
  const r0 = Math.min(last - 1, (r * last) | 0);
  const g0 = Math.min(last - 1, (g * last) | 0);
  const b0 = Math.min(last - 1, (b * last) | 0);
  const fr = r * last - r0;
  const fg = g * last - g0;
  const fb = b * last - b0;
  const at = ((r0 * SIDE + g0) * SIDE + b0) * 4;
  const [dr, dg] = [SIDE * SIDE * 4, SIDE * 4];
  for (let c = 0; c < 4; c++) {
    const k = at + c;
    const low = mix(mix(table[k]!, table[k + 4]!, fb), mix(table[k + dg]!, table[k + dg + 4]!, fb), fg);
    const high = mix(mix(table[k + dr]!, table[k + dr + 4]!, fb), mix(table[k + dr + dg]!, table[k + dr + dg + 4]!, fb), fg);
    out[c] = mix(low, high, fr);
  }
}

const mix = (a: number, b: number, t: number): number => a + (b - a) * t;
