import { separable, type BlendMode } from '../mode.ts';

/** Backdrop over source: white changes nothing, mid grey doubles, black gives white. Common practice, no source. */
export const divide: BlendMode = { id: 'divide', name: 'Divide', apply: separable((b, s) => (s === 0 ? 1 : Math.min(1, b / s))) };
