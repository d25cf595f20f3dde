import { unit } from '../../base/number.ts';
import { separable, type BlendMode } from '../mode.ts';
import { hardLightFormula } from './hardLight.ts';

const formula = (b: number, s: number): number => hardLightFormula(s, b);

/** Hard light with the layers exchanged. */
export const overlay: BlendMode = {
  id: 'overlay',
  name: 'Overlay',
  apply: separable((backdrop, source, n) => {
    for (let i = 0; i < n; i++) source[i] = formula(unit(backdrop[i]!), unit(source[i]!));
  }),
};
