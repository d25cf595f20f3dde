/** Colours as people type them: everything that CSS Color 4 writes in sRGB, HSL, HWB, Lab, LCh, OKLab and OKLCh, and bare hexadecimal digits. */
import type { Colour } from '@umbo/core/colour';
import { converter, modeHsl, modeHwb, modeLab, modeLch, modeOklab, modeOklch, modeRgb, parse, useMode } from 'culori/fn';
import { colourModels, colourOfHex } from './colourModels';

for (const mode of [modeRgb, modeHsl, modeHwb, modeLab, modeLch, modeOklab, modeOklch]) useMode(mode as typeof modeRgb);
const toRgb = converter('rgb');
const toOklch = converter('oklch');
const oklch = colourModels.find(({ id }) => id === 'oklch')!;

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
