import type { FoundBy } from '../../document/foundBy.ts';
import { adjusting, starter } from './parts.ts';

const foundBy: FoundBy = { kind: 'measurement', measurement: 'firstCorrection' };

/** The veil of a print that has faded is measured and taken off. */
export const fadedPrint = starter(
  'faded-print',
  'Faded print',
  'Takes off the veil that lies over a faded print, channel by channel as each print needs it, finds its neutral, and gives back some of the depth that went.',
  [
    adjusting('ends', 'Ends of the tones', 'levels', {}, { foundBy }),
    adjusting('balance', 'Neutral balance', 'whiteBalance', {}, { foundBy }),
    adjusting('depth', 'Depth', 'exposure', { stops: -0.3 }),
  ],
);
