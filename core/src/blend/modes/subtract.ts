import { separable, type BlendMode } from '../mode.ts';

/** Backdrop less source. Common practice, no source. */
export const subtract: BlendMode = { id: 'subtract', name: 'Subtract', apply: separable((b, s) => Math.max(0, b - s)) };
