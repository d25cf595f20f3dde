import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';

const formula = (b: number, s: number): number => Math.max(0, b - s);

/** Backdrop less source. Common practice, no source. */
export const subtract: BlendMode = {
  id: 'subtract',
  name: 'Subtract',
  apply: separable((below, own, n) => {
    for (let i = 0; i < n; i++) own[i] = formula(unit(below[i]!), unit(own[i]!));
  }),
};
