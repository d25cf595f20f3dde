import type { Layer } from '../../document/types.ts';
import { adjusting, starter, within } from './parts.ts';

const evened = (role: 'faceSkin' | 'bodySkin', name: string): Layer =>
  adjusting(
    `even-${role}`,
    name,
    'evenness',
    { hueBroad: -45, hueFine: -25, chromaBroad: -35, chromaFine: -15 },
    { where: within(role, 16), foundBy: { kind: 'measurement', measurement: 'ownColours' } },
  );

/** Blotches of hue and chroma become fewer about the skin's own colour; its light, and so its texture, stays. */
export const evenSkin = starter(
  'even-skin',
  'Even skin',
  'Hue and chroma of face and body come closer to each skin’s own mean; lightness, and with it the texture, stays as it is.',
  [evened('faceSkin', 'Face, evener'), evened('bodySkin', 'Body, evener')],
);
