import { separable, type BlendMode } from '../mode.ts';

export const lighten: BlendMode = { id: 'lighten', name: 'Lighten', apply: separable((b, s) => (b > s ? b : s)) };
