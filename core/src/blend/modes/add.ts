import { separable, type BlendMode } from '../mode.ts';

/** Backdrop plus source. Common practice, no source. */
export const add: BlendMode = { id: 'add', name: 'Add', apply: separable((b, s) => Math.min(1, b + s)) };
