import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';

const formula = (b: number, s: number): number => (b === 1 ? 1 : s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s));

export const colorBurn: BlendMode = {
  id: 'color-burn',
  name: 'Color burn',
  apply: separable((backdrop, source, n) => {
    for (let i = 0; i < n; i++) source[i] = formula(unit(backdrop[i]!), unit(source[i]!));
  }),
};
