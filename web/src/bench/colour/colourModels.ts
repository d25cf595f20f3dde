/** A colour in the numbers that people change it by. */
import { unit, type ColourSpace, type SpaceId } from '@umbo/core/base';
import { colourBetween, hslChannel, oklabToRgb, rgbToHsl, rgbToOklab, spaces, srgb, type Colour } from '@umbo/core/colour';

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
  /** The colour of these numbers, held within the space. */
  readonly write: (values: Colour) => Colour;
}

const inside = (c: Float64Array): boolean => c.every((v) => v >= -1e-4 && v <= 1 + 1e-4);

/** OKLCh to a space; what that does not have keeps lightness and hue and gives up chroma (as CSS Color 4, section 13.2 maps). */
function fromOklch(space: ColourSpace, l: number, c: number, h: number): Colour {
  const [cos, sin] = [Math.cos((h * Math.PI) / 180), Math.sin((h * Math.PI) / 180)];
  const rgb = new Float64Array(3);
  const at = (chroma: number): boolean => {
    oklabToRgb(space, l, chroma * cos, chroma * sin, rgb);
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

const OF_CHANNELS: readonly ColourModel[] = [
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
];

const oklchOf = (space: ColourSpace): ColourModel => ({
  id: 'oklch',
  name: 'OKLCh',
  axes: [
    { label: 'Lightness', max: 100, step: 1, unit: '%' },
    { label: 'Chroma', max: 0.4, step: 0.01, unit: '' },
    { label: 'Hue', max: 360, step: 1, unit: '°' },
  ],
  read(colour) {
    const lab = new Float64Array(3);
    rgbToOklab(space, ...colour, lab);
    const [l, a, b] = lab as unknown as [number, number, number];
    return [l * 100, Math.hypot(a, b), ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360];
  },
  write: ([l, c, h]) => fromOklch(space, l / 100, c, h),
});

/** The models, by the space whose channels they are of. */
export const colourModels = Object.fromEntries(
  Object.values(spaces).map((space) => [space.id, [...OF_CHANNELS, oklchOf(space)]]),
) as unknown as Readonly<Record<SpaceId, readonly ColourModel[]>>;

export const inOklch = ({ id }: ColourSpace): ColourModel => colourModels[id].find((model) => model.id === 'oklch')!;

/** The colour of hexadecimal digits, in a space. @returns null when it is none */
export function colourOfHex(text: string, space: ColourSpace = srgb): Colour | null {
  const digits = /^#?([0-9a-f]{6}|[0-9a-f]{3})$/i.exec(text.trim())?.[1];
  if (!digits) return null;
  const pairs = digits.length === 3 ? [...digits].map((d) => d + d) : digits.match(/../g)!;
  return colourBetween(srgb, space, pairs.map((pair) => parseInt(pair, 16) / 255) as Colour).map(unit) as Colour;
}
