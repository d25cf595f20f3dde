/**
 * How far colours lie outside of what print, or another display, can show: by a table over the encoded colours of a space. What is kept in
 * an edit is made of an ICC profile, as ΔE00; what there is without one is a general offset print on coated paper, by the CMYK profile that
 * libvips brings (see inks.ts). There a colour is converted to inks and back on a grid at build time; what its hue and chroma lose on the
 * way is how far out it is. Lightness does not count there: how it is fitted to paper is the choice of the rendering intent, not a limit
 * of the inks.
 */
import { Type, type Static } from '@sinclair/typebox';
import { madeOnce } from '../base/madeOnce.ts';
import type { SpaceId } from '../base/space.ts';
import { INK_SIDE, printedHex } from './inks.gen.ts';
import { rgbToOklab } from './oklab.ts';
import { spaceIds, srgb } from './spaces.ts';

export const gamutSchema = Type.Object(
  {
    /** Of the profile, as shown to people. */
    name: Type.String({ minLength: 1, maxLength: 120 }),
    /** The space over whose encoded colours the table goes. */
    space: Type.Unsafe<SpaceId>({ enum: spaceIds }),
    /** Points along each side. */
    size: Type.Integer({ minimum: 2, maximum: 65 }),
    /** How far out each point is: bytes of 0.1 ΔE00, red running fastest, in base 64. */
    table: Type.String({ maxLength: 400_000, pattern: '^[A-Za-z0-9+/]*={0,2}$' }),
  },
  { additionalProperties: false },
);
/** What a profile holds, as edits keep it: they need no file beside them. */
export type Gamut = Static<typeof gamutSchema>;

const STEP = 0.1;
/** What the way to 8-bit inks and back changes by itself. */
const INK_ROUNDING = 3.2;

/** How far out a colour is, encoded, each channel within 0..1; about 0 inside. */
export type Beyond = (r: number, g: number, b: number) => number;

/** A gamut in the form in which edits keep it. @param beyond ΔE00 at each of `size`^3 points, red running fastest */
export function gamutOf(name: string, space: SpaceId, size: number, beyond: Float32Array): Gamut {
  if (beyond.length !== size ** 3) throw new RangeError(`A gamut of ${size} points a side has ${size ** 3} values, not ${beyond.length}`);
  let bytes = '';
  for (const v of beyond) bytes += String.fromCharCode(Math.max(0, Math.min(255, Math.round(v / STEP))));
  return { name: name.slice(0, 120), space, size, table: btoa(bytes) };
}

/** How far colours of its space come back from themselves through a profile, in ΔE00. A table of the wrong length is filled up with 0. */
export const beyondGamut = madeOnce(({ size, table }: Gamut): Beyond => {
  const bytes = atob(table);
  const values = new Float32Array(size ** 3);
  for (let i = 0; i < Math.min(values.length, bytes.length); i++) values[i] = bytes.charCodeAt(i) * STEP;
  return (r, g, b) => between(values, size, r, g, b);
});

let printed: Float32Array | undefined;

function lossInPrint(): Float32Array {
  const byte = (i: number): number => parseInt(printedHex.slice(i * 2, i * 2 + 2), 16) / 255;
  const [lab, back] = [new Float64Array(3), new Float64Array(3)];
  const last = INK_SIDE - 1;
  return Float32Array.from({ length: INK_SIDE ** 3 }, (_, i) => {
    const [r, g, b] = [i % INK_SIDE, Math.floor(i / INK_SIDE) % INK_SIDE, Math.floor(i / INK_SIDE ** 2)];
    const at = ((r * INK_SIDE + g) * INK_SIDE + b) * 3;
    rgbToOklab(srgb, r / last, g / last, b / last, lab);
    rgbToOklab(srgb, byte(at), byte(at + 1), byte(at + 2), back);
    return 100 * Math.sqrt((lab[1]! - back[1]!) ** 2 + (lab[2]! - back[2]!) ** 2);
  });
}

/** How far a colour of sRGB is outside of print, as a distance in OKLab's a/b plane times 100. */
export const beyondPrint: Beyond = (r, g, b) => Math.max(0, between((printed ??= lossInPrint()), INK_SIDE, r, g, b) - INK_ROUNDING);

/** Between the points of a table over colours, trilinear; red runs fastest in it. */
function between(table: Float32Array, side: number, r: number, g: number, b: number): number {
  const last = side - 1;
  const r0 = Math.min(last - 1, (r * last) | 0);
  const g0 = Math.min(last - 1, (g * last) | 0);
  const b0 = Math.min(last - 1, (b * last) | 0);
  const [fr, fg, fb] = [r * last - r0, g * last - g0, b * last - b0];
  let sum = 0;
  for (let corner = 0; corner < 8; corner++) {
    const [dr, dg, db] = [corner >> 2, (corner >> 1) & 1, corner & 1];
    const weight = (dr ? fr : 1 - fr) * (dg ? fg : 1 - fg) * (db ? fb : 1 - fb);
    sum += weight * table[((b0 + db) * side + g0 + dg) * side + r0 + dr]!;
  }
  return sum;
}
