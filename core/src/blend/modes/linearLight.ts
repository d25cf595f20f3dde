import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';

const formula = (b: number, s: number): number => Math.max(0, Math.min(1, b + 2 * s - 1));

/** Backdrop plus twice the source less one. Common practice, no source. */
export const linearLight: BlendMode = {
  id: 'linear-light',
  name: 'Linear light',
  apply: separable((backdrop, source, n) => {
    for (let i = 0; i < n; i++) source[i] = formula(unit(backdrop[i]!), unit(source[i]!));
  }),
};
