import { lum, setLum } from '../luminosity.ts';
import { nonSeparable, type BlendMode } from '../mode.ts';

export const luminosity: BlendMode = {
  id: 'luminosity',
  name: 'Luminosity',
  apply: nonSeparable((b, s) => {
    const light = lum(s);
    s.set(b);
    setLum(s, light);
  }),
};
