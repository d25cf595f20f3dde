import { lum, sat, setLum, setSat } from '../luminosity.ts';
import { nonSeparable, type BlendMode } from '../mode.ts';

export const hue: BlendMode = {
  id: 'hue',
  name: 'Hue',
  apply: nonSeparable((b, s) => {
    setSat(s, sat(b));
    setLum(s, lum(b));
  }),
};
