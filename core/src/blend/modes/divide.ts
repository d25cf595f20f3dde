import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';

const formula = (b: number, s: number): number => (s === 0 ? 1 : Math.min(1, b / s));

/** Backdrop over source: white changes nothing, mid grey doubles, black gives white. Common practice, no source. */
export const divide: BlendMode = {
  id: 'divide',
  name: 'Divide',
  apply: separable((backdrop, source, n) => {
    for (let i = 0; i < n; i++) source[i] = formula(unit(backdrop[i]!), unit(source[i]!));
  }),
};
