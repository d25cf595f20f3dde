import { lum, sat, setLum, setSat } from '../luminosity.ts';
import { nonSeparable, type BlendMode } from '../mode.ts';

export const saturation: BlendMode = {
  id: 'saturation',
  name: 'Saturation',
  apply: nonSeparable((b, s) => {
    const amount = sat(s);
    const light = lum(b);
    s.set(b);
    setSat(s, amount);
    setLum(s, light);
  }),
};
