import { separable, type BlendMode } from '../mode.ts';
import { hardLightFormula } from './hardLight.ts';

/** Hard light with the layers exchanged. */
export const overlay: BlendMode = { id: 'overlay', name: 'Overlay', apply: separable((b, s) => hardLightFormula(s, b)) };
