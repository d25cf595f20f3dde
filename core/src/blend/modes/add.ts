import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';

const formula = (b: number, s: number): number => Math.min(1, b + s);

/** Backdrop plus source. Common practice, no source. */
export const add: BlendMode = {
  id: 'add',
  name: 'Add',
  apply: separable((backdrop, source, n) => {
    for (let i = 0; i < n; i++) source[i] = formula(unit(backdrop[i]!), unit(source[i]!));
  }),
};
