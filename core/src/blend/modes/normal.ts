import type { BlendMode } from '../mode.ts';

/** The source itself. Not clamped: a plain adjustment keeps what lies outside 0..1 for the layers above. */
export const normal: BlendMode = { id: 'normal', name: 'Normal', apply: () => undefined };
