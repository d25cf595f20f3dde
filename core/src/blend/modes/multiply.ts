import { separable, type BlendMode } from '../mode.ts';

export const multiply: BlendMode = { id: 'multiply', name: 'Multiply', apply: separable((b, s) => b * s) };
