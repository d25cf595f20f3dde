/**
 * How far colours lie outside what print can show: a general offset print on coated paper, by the CMYK profile that libvips brings
 * (see inks.ts). A colour is converted to inks and back on a grid at build time; what its hue and chroma lose on the way is how far
 * out it is. Lightness does not count: how it is fitted to paper is the choice of the rendering intent, not a limit of the inks.
 */
import { INK_SIDE as SIDE, printedHex } from './inks.gen.ts';
import { rgbToOklab } from './oklab.ts';
import { srgb } from './spaces.ts';

/** What the way to 8-bit inks and back changes by itself. */
const ALLOWANCE = 3.2;

let table: Float32Array | undefined;

function lossTable(): Float32Array {
  const byte = (i: number): number => parseInt(printedHex.slice(i * 2, i * 2 + 2), 16) / 255;
  const [lab, back] = [new Float64Array(3), new Float64Array(3)];
  return Float32Array.from({ length: SIDE ** 3 }, (_, i) => {
    const last = SIDE - 1;
    rgbToOklab(srgb, Math.floor(i / SIDE ** 2) / last, (Math.floor(i / SIDE) % SIDE) / last, (i % SIDE) / last, lab);
    rgbToOklab(srgb, byte(i * 3), byte(i * 3 + 1), byte(i * 3 + 2), back);
    return 100 * Math.sqrt((lab[1]! - back[1]!) ** 2 + (lab[2]! - back[2]!) ** 2);
  });
}

/** How far a colour (encoded sRGB within 0..1) is outside of print, as a distance in OKLab's a/b plane times 100; 0 inside. */
export function beyondPrint(r: number, g: number, b: number): number {
  table ??= lossTable();
  const last = SIDE - 1;
  const r0 = Math.min(last - 1, (r * last) | 0);
  const g0 = Math.min(last - 1, (g * last) | 0);
  const b0 = Math.min(last - 1, (b * last) | 0);
  const [fr, fg, fb] = [r * last - r0, g * last - g0, b * last - b0];
  let sum = 0;
  for (let corner = 0; corner < 8; corner++) {
    const [dr, dg, db] = [corner >> 2, (corner >> 1) & 1, corner & 1];
    const weight = (dr ? fr : 1 - fr) * (dg ? fg : 1 - fg) * (db ? fb : 1 - fb);
    sum += weight * table[((r0 + dr) * SIDE + g0 + dg) * SIDE + b0 + db]!;
  }
  return Math.max(0, sum - ALLOWANCE);
}
