import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';

const formula = (b: number, s: number): number => (b === 1 ? 1 : s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s));

export const colorBurn: BlendMode = {
  id: 'color-burn',
  name: 'Color burn',
  apply: separable((below, own, n) => {
    for (let i = 0; i < n; i++) own[i] = formula(unit(below[i]!), unit(own[i]!));
  }),
};
