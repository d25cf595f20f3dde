import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';

const formula = (b: number, s: number): number => Math.max(0, b - s);

/** Backdrop less source. Common practice, no source. */
export const subtract: BlendMode = {
  id: 'subtract',
  name: 'Subtract',
  apply: separable((backdrop, source, n) => {
    for (let i = 0; i < n; i++) source[i] = formula(unit(backdrop[i]!), unit(source[i]!));
  }),
};
