/** Colours as people type them: everything that CSS Color 4 writes in sRGB, Display P3, A98, ProPhoto, Rec. 2020, HSL, HWB, Lab, LCh, OKLab and OKLCh, and bare hexadecimal digits. */
import type { ColourSpace } from '@umbo/core/base';
import { colourBetween, rgbToLab, srgb, type Colour, type Lab } from '@umbo/core/colour';
import {
  converter,
  modeHsl,
  modeHwb,
  modeLab,
  modeLch,
  modeOklab,
  modeOklch,
  modeA98,
  modeP3,
  modeProphoto,
  modeRec2020,
  modeRgb,
  parse,
  useMode,
} from 'culori/fn';
import { colourOfHex, inOklch } from './colourModels';

for (const mode of [modeRgb, modeP3, modeA98, modeProphoto, modeRec2020, modeHsl, modeHwb, modeLab, modeLch, modeOklab, modeOklch])
  useMode(mode as typeof modeRgb);
const toRgb = converter('rgb');
const toOklch = converter('oklch');
const toLab = converter('lab');

/** A colour as CIELAB D50, also where no display holds it; null when it is no colour. */
export function labOfText(text: string): Lab | null {
  const hex = colourOfHex(text);
  if (hex) return rgbToLab(srgb, ...hex);
  const colour = toLab(text.trim());
  return colour ? { l: Math.min(100, Math.max(0, colour.l)), a: colour.a, b: colour.b } : null;
}

/** @returns the colour in a space, held within it at its lightness and hue; null when it is no colour */
export function colourOfText(text: string, space: ColourSpace): Colour | null {
  const hex = colourOfHex(text, space);
  if (hex) return hex;
  const colour = parse(text.trim());
  if (!colour) return null;
  const { r, g, b } = toRgb(colour);
  const exact = colourBetween(srgb, space, [r, g, b]);
  if (exact.every((v) => v >= 0 && v <= 1)) return exact;
  const { l, c, h = 0 } = toOklch(colour);
  return inOklch(space).write([l * 100, c, h]);
}
