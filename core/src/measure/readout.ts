import type { ColourSpace } from '../base/space.ts';
import { rgbToHsl, type Hsl } from '../colour/hsl.ts';
import { labToLch, rgbToLab, type Lch } from '../colour/lab.ts';

/** One colour in the numbers that people read. */
export interface Readout {
  /** 0..255 */
  rgb: readonly [number, number, number];
  hsl: Hsl;
  /** CIE LCh, D50. */
  lch: Lch;
  hex: string;
}

/**
 * @param rgb encoded, 0..255
 * @example
 * readout(srgb, [255, 128, 0]).hex; // → '#ff8000'
 */
export function readout(space: ColourSpace, rgb: readonly [number, number, number]): Readout {
  const [r, g, b] = rgb.map((v) => v / 255) as [number, number, number];
  return {
    rgb,
    hsl: rgbToHsl(r, g, b),
    lch: labToLch(rgbToLab(space, r, g, b)),
    hex: '#' + rgb.map((v) => v.toString(16).padStart(2, '0')).join(''),
  };
}
