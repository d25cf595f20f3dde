import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';

function formula(b: number, s: number): number {
  if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
  const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
  return b + (2 * s - 1) * (d - b);
}

export const softLight: BlendMode = {
  id: 'soft-light',
  name: 'Soft light',
  apply: separable((backdrop, source, n) => {
    for (let i = 0; i < n; i++) source[i] = formula(unit(backdrop[i]!), unit(source[i]!));
  }),
};
