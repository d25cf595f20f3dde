import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';

const formula = (b: number, s: number): number => b * s;

export const multiply: BlendMode = {
  id: 'multiply',
  name: 'Multiply',
  apply: separable((backdrop, source, n) => {
    for (let i = 0; i < n; i++) source[i] = formula(unit(backdrop[i]!), unit(source[i]!));
  }),
};
