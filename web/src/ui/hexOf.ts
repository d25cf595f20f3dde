import { unit } from '@umbo/core/base';
import type { Colour } from '@umbo/core/colour';

/** Such as "#C08030". */
export const hexOf = (colour: Colour): string =>
  `#${colour
    .map((v) =>
      Math.round(unit(v) * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`.toUpperCase();
