import { unit, type ColourSpace } from '@umbo/core/base';
import { colourBetween, srgb, type Colour } from '@umbo/core/colour';

/** A colour of a space in hexadecimal digits, which are always sRGB: such as "#C08030". What that does not hold is held at its ends. */
export const hexOf = (colour: Colour, space: ColourSpace): string =>
  `#${colourBetween(space, srgb, colour)
    .map((v) =>
      Math.round(unit(v) * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`.toUpperCase();

/** A colour of a space as CSS Color 4 writes it, for the browser to show as well as it can. */
export const cssOf = ([r, g, b]: Readonly<Colour>, { id }: ColourSpace): string =>
  id === 'srgb' ? `rgb(${Math.round(r * 255)} ${Math.round(g * 255)} ${Math.round(b * 255)})` : `color(${id} ${r} ${g} ${b})`;
