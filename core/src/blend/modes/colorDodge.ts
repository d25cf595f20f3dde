import { separable, type BlendMode } from '../mode.ts';

export const colorDodge: BlendMode = {
  id: 'color-dodge',
  name: 'Color dodge',
  apply: separable((b, s) => (b === 0 ? 0 : s === 1 ? 1 : Math.min(1, b / (1 - s)))),
};
