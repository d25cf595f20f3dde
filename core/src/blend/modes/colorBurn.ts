import { separable, type BlendMode } from '../mode.ts';

export const colorBurn: BlendMode = {
  id: 'color-burn',
  name: 'Color burn',
  apply: separable((b, s) => (b === 1 ? 1 : s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s))),
};
