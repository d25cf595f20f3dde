import { adjusting, starter, within } from './parts.ts';

/** A sky without drawing gets some, and the land below it stays as it is. */
export const flatSky = starter(
  'flat-sky',
  'Flat sky',
  'Gives a flat sky more drawing and a little more colour, and makes it darker; what is below it stays as it is.',
  [
    adjusting('sky-light', 'Sky, darker', 'exposure', { stops: -0.3 }, { where: within('sky', 24) }),
    adjusting('sky-drawing', 'Sky, more drawing', 'localContrast', { broad: 60, fine: 15 }, { where: within('sky', 24) }),
    adjusting('sky-colour', 'Sky, more colour', 'vibrance', { vibrance: 30, saturation: 10 }, { where: within('sky', 24) }),
  ],
);
