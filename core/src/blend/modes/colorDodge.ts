import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';

const formula = (b: number, s: number): number => (b === 0 ? 0 : s === 1 ? 1 : Math.min(1, b / (1 - s)));

export const colorDodge: BlendMode = {
  id: 'color-dodge',
  name: 'Color dodge',
  apply: separable((backdrop, source, n) => {
    for (let i = 0; i < n; i++) source[i] = formula(unit(backdrop[i]!), unit(source[i]!));
  }),
};
