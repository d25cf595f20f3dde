import { separable, type BlendMode } from '../mode.ts';

export const difference: BlendMode = { id: 'difference', name: 'Difference', apply: separable((b, s) => (b > s ? b - s : s - b)) };
