import { everywhere } from '../../document/defaults.ts';
import type { HueRangePart } from '../../mask/parts/hueRange.ts';
import { maskPartKind } from '../../mask/registry.ts';
import { adjusting, starter } from './parts.ts';

const warm = {
  ...everywhere(),
  parts: [
    {
      ...maskPartKind<HueRangePart>('hueRange').create('warm-hues', 'add', { width: 3000, height: 2000 }),
      from: 10,
      fadeIn: 25,
      span: 75,
      fadeOut: 25,
      greys: 0.02,
    },
  ],
};

/** The orange of street lamps is taken out of a picture at dusk, and what is blue in it stays. */
export const lampLight = starter(
  'lamp-light',
  'Dusk without lamp light',
  'Takes the orange of lamps out of walls and ground at dusk: a cooler light, and weaker oranges and yellows. The blue of the sky stays.',
  [
    adjusting('cooler', 'Cooler light', 'whiteBalance', { kelvin: 5000, tint: 10 }, { where: warm }),
    adjusting('weaker', 'Lamp light, weaker', 'hueSaturation', { saturation: -60 }, { where: warm }),
    adjusting('blues', 'Sky, calmer', 'colourFamilies', { blueSaturation: -35 }),
  ],
);
