import { separable, type BlendMode } from '../mode.ts';

/** Backdrop plus twice the source less one. Common practice, no source. */
export const linearLight: BlendMode = {
  id: 'linear-light',
  name: 'Linear light',
  apply: separable((b, s) => Math.max(0, Math.min(1, b + 2 * s - 1))),
};
