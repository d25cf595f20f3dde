import { separable, type BlendMode } from '../mode.ts';

export const exclusion: BlendMode = { id: 'exclusion', name: 'Exclusion', apply: separable((b, s) => b + s - 2 * b * s) };
