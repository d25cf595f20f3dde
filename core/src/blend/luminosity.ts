/** The helper functions of W3C Compositing and Blending Level 1, section 10.2 (Lum, ClipColor, SetLum, Sat, SetSat), in place. */
import { lumOf } from '../colour/luminosity.ts';
import type { Triple } from './mode.ts';

export const lum = (c: Triple): number => lumOf(c[0]!, c[1]!, c[2]!);
export const sat = (c: Triple): number => Math.max(c[0]!, c[1]!, c[2]!) - Math.min(c[0]!, c[1]!, c[2]!);

function clipColor(c: Triple): void {
  const l = lum(c);
  const low = Math.min(c[0]!, c[1]!, c[2]!);
  const high = Math.max(c[0]!, c[1]!, c[2]!);
  if (low < 0) for (let k = 0; k < 3; k++) c[k] = l + ((c[k]! - l) * l) / (l - low);
  if (high > 1) for (let k = 0; k < 3; k++) c[k] = l + ((c[k]! - l) * (1 - l)) / (high - l);
}

/** Gives `c` the luminosity `l`, 0..1. */
export function setLum(c: Triple, l: number): void {
  const d = l - lum(c);
  for (let k = 0; k < 3; k++) c[k] = c[k]! + d;
  clipColor(c);
}

/** Gives `c` the saturation `s`, 0..1; a grey becomes black. */
export function setSat(c: Triple, s: number): void {
  const low = Math.min(c[0]!, c[1]!, c[2]!);
  const range = Math.max(c[0]!, c[1]!, c[2]!) - low;
  for (let k = 0; k < 3; k++) c[k] = range > 0 ? ((c[k]! - low) * s) / range : 0;
}
