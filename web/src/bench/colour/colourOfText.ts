/** Colours as people type them: everything that CSS Color 4 writes in sRGB, HSL, HWB, Lab, LCh, OKLab and OKLCh, and bare hexadecimal digits. */
import type { ColourSpace } from '@umbo/core/base';
import { rgbToLab, type Colour, type Lab } from '@umbo/core/colour';
import { converter, modeHsl, modeHwb, modeLab, modeLch, modeOklab, modeOklch, modeRgb, parse, useMode } from 'culori/fn';
import { colourModels, colourOfHex } from './colourModels';

for (const mode of [modeRgb, modeHsl, modeHwb, modeLab, modeLch, modeOklab, modeOklch]) useMode(mode as typeof modeRgb);
const toRgb = converter('rgb');
const toOklch = converter('oklch');
const oklch = colourModels.find(({ id }) => id === 'oklch')!;

const toLab = converter('lab');

/** A colour as CIELAB D50, also where sRGB does not hold it; null when it is no colour. */
export function labOfText(text: string, space: ColourSpace): Lab | null {
  const hex = colourOfHex(text);
  if (hex) return rgbToLab(space, ...hex);
  const colour = toLab(text.trim());
  return colour ? { l: Math.min(100, Math.max(0, colour.l)), a: colour.a, b: colour.b } : null;
}

/** @returns held within sRGB at its lightness and hue; null when it is no colour */
export function colourOfText(text: string): Colour | null {
  const hex = colourOfHex(text);
  if (hex) return hex;
  const colour = parse(text.trim());
  if (!colour) return null;
  const { r, g, b } = toRgb(colour);
  if ([r, g, b].every((v) => v >= 0 && v <= 1)) return [r, g, b];
  const { l, c, h = 0 } = toOklch(colour);
  return oklch.write([l * 100, c, h]);
}
