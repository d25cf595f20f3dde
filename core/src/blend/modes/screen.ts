import { separable, type BlendMode } from '../mode.ts';

export const screen: BlendMode = { id: 'screen', name: 'Screen', apply: separable((b, s) => b + s - b * s) };
