/** The numbers in which readings are shown: of one width each, so that columns never jump. */
import type { ColourSpace } from '@umbo/core/base';
import { labToLch, rgbToHsl, rgbToLab, rgbToOklch, type Colour } from '@umbo/core/colour';
import { hexOf } from '@/ui/hexOf';
import type { Notation } from '../state/benchState';

const padded = (values: readonly number[], digits = 0, width = digits > 0 ? 5 + digits - 1 : 4): string =>
  values.map((v) => v.toFixed(digits).replace('-', '−').padStart(width)).join(' ');

interface Written {
  readonly id: Notation;
  readonly name: string;
  /** What the three numbers are; as heads of columns. */
  readonly heads: string;
  readonly write: (space: ColourSpace, colour: Colour) => string;
}

export const NOTATIONS: readonly Written[] = [
  {
    id: 'rgb',
    name: 'RGB',
    heads: 'red, green, blue; 0 to 255',
    write: (_, colour) =>
      padded(
        colour.map((v) => v * 255),
        1,
      ),
  },
  {
    id: 'percent',
    name: 'RGB %',
    heads: 'red, green, blue; percent',
    write: (_, colour) =>
      padded(
        colour.map((v) => v * 100),
        1,
      ),
  },
  {
    id: 'hsl',
    name: 'HSL',
    heads: 'hue, saturation, lightness',
    write(_, colour) {
      const { h, s, l } = rgbToHsl(...colour);
      return padded([h, s * 100, l * 100], 1);
    },
  },
  {
    id: 'lab',
    name: 'Lab',
    heads: 'L*, a*, b*; D50',
    write(space, colour) {
      const { l, a, b } = rgbToLab(space, ...colour);
      return padded([l, a, b], 1);
    },
  },
  {
    id: 'lch',
    name: 'LCh',
    heads: 'L*, C*, h; D50',
    write(space, colour) {
      const { l, c, h } = labToLch(rgbToLab(space, ...colour));
      return padded([l, c, h], 1);
    },
  },
  {
    id: 'oklch',
    name: 'OKLCh',
    heads: 'lightness, chroma, hue',
    write(space, colour) {
      const { l, c, h } = rgbToOklch(space, ...colour);
      return `${padded([l * 100], 1)} ${padded([c], 3, 5)} ${padded([h], 1)}`;
    },
  },
  { id: 'hex', name: 'Hex', heads: 'red, green, blue; hexadecimal', write: (space, colour) => hexOf(colour, space) },
];

export const notationOf = (id: Notation): Written => NOTATIONS.find((one) => one.id === id)!;
