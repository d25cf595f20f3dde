import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';

/** Multiply below the middle of the source, Screen above it. */
export const hardLightFormula = (b: number, s: number): number => (s <= 0.5 ? b * 2 * s : b + (2 * s - 1) - b * (2 * s - 1));

export const hardLight: BlendMode = {
  id: 'hard-light',
  name: 'Hard light',
  apply: separable((backdrop, source, n) => {
    for (let i = 0; i < n; i++) source[i] = hardLightFormula(unit(backdrop[i]!), unit(source[i]!));
  }),
};
