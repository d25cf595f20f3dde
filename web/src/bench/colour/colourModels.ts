/** A colour in the numbers that people change it by. */
import { unit } from '@umbo/core/base';
import { srgb, hslChannel, oklabToRgb, rgbToHsl, rgbToOklab, type Colour } from '@umbo/core/colour';

export interface Axis {
  readonly label: string;
  readonly max: number;
  readonly step: number;
  readonly unit: '' | '°' | '%';
}
export interface ColourModel {
  readonly id: 'rgb' | 'hsl' | 'oklch';
  readonly name: string;
  readonly axes: readonly [Axis, Axis, Axis];
  readonly read: (colour: Colour) => Colour;
  /** The colour of these numbers, held within sRGB. */
  readonly write: (values: Colour) => Colour;
}

const inside = (c: Float64Array): boolean => c.every((v) => v >= -1e-4 && v <= 1 + 1e-4);

/** OKLCh to sRGB; what sRGB does not have keeps lightness and hue and gives up chroma (as CSS Color 4, section 13.2 maps). */
function fromOklch(l: number, c: number, h: number): Colour {
  const [cos, sin] = [Math.cos((h * Math.PI) / 180), Math.sin((h * Math.PI) / 180)];
  const rgb = new Float64Array(3);
  const at = (chroma: number): boolean => {
    oklabToRgb(srgb, l, chroma * cos, chroma * sin, rgb);
    return inside(rgb);
  };
  if (!at(c)) {
    let [low, high] = [0, c];
    for (let i = 0; i < 24; i++) {
      const middle = (low + high) / 2;
      if (at(middle)) low = middle;
      else high = middle;
    }
    at(low);
  }
  return [unit(rgb[0]!), unit(rgb[1]!), unit(rgb[2]!)];
}

export const colourModels: readonly ColourModel[] = [
  {
    id: 'rgb',
    name: 'RGB',
    axes: [
      { label: 'Red', max: 255, step: 1, unit: '' },
      { label: 'Green', max: 255, step: 1, unit: '' },
      { label: 'Blue', max: 255, step: 1, unit: '' },
    ],
    read: ([r, g, b]) => [r * 255, g * 255, b * 255],
    write: ([r, g, b]) => [unit(r / 255), unit(g / 255), unit(b / 255)],
  },
  {
    id: 'hsl',
    name: 'HSL',
    axes: [
      { label: 'Hue', max: 360, step: 1, unit: '°' },
      { label: 'Saturation', max: 100, step: 1, unit: '%' },
      { label: 'Lightness', max: 100, step: 1, unit: '%' },
    ],
    read(colour) {
      const { h, s, l } = rgbToHsl(...colour);
      return [h, s * 100, l * 100];
    },
    write: ([h, s, l]) => [0, 8, 4].map((n) => unit(hslChannel(h % 360, s / 100, l / 100, n))) as Colour,
  },
  {
    id: 'oklch',
    name: 'OKLCh',
    axes: [
      { label: 'Lightness', max: 100, step: 1, unit: '%' },
      { label: 'Chroma', max: 0.4, step: 0.01, unit: '' },
      { label: 'Hue', max: 360, step: 1, unit: '°' },
    ],
    read(colour) {
      const lab = new Float64Array(3);
      rgbToOklab(srgb, ...colour, lab);
      const [l, a, b] = lab as unknown as [number, number, number];
      return [l * 100, Math.hypot(a, b), ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360];
    },
    write: ([l, c, h]) => fromOklch(l / 100, c, h),
  },
];

/** @returns null when it is not a colour in hexadecimal digits */
export function colourOfHex(text: string): Colour | null {
  const digits = /^#?([0-9a-f]{6}|[0-9a-f]{3})$/i.exec(text.trim())?.[1];
  if (!digits) return null;
  const pairs = digits.length === 3 ? [...digits].map((d) => d + d) : digits.match(/../g)!;
  return pairs.map((pair) => parseInt(pair, 16) / 255) as Colour;
}

export const cssOf = ([r, g, b]: readonly [number, number, number]): string =>
  `rgb(${Math.round(r * 255)} ${Math.round(g * 255)} ${Math.round(b * 255)})`;
