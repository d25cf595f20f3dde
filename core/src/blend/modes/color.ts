import { lum, setLum } from '../luminosity.ts';
import { nonSeparable, type BlendMode } from '../mode.ts';

export const color: BlendMode = { id: 'color', name: 'Color (hue and chroma)', apply: nonSeparable((b, s) => setLum(s, lum(b))) };
