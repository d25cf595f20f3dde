import { separable, type BlendMode } from '../mode.ts';

export const darken: BlendMode = { id: 'darken', name: 'Darken', apply: separable((b, s) => (b < s ? b : s)) };
