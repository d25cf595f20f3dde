import type { Colour } from '../../colour/colour.ts';
import type { Role } from '../../document/region.ts';
import type { Layer } from '../../document/types.ts';
import { colouring, starter, within } from './parts.ts';

/** Colours of ours, each over a region, as strong as it looks natural. */
const COLOURS: readonly (readonly [Role, string, Colour, number, number])[] = [
  ['backdrop', 'Backdrop, cool grey', [0.42, 0.47, 0.52], 0.45, 30],
  ['garment', 'Cloth, slate', [0.32, 0.4, 0.52], 0.5, 12],
  ['bodySkin', 'Body', [0.76, 0.61, 0.53], 0.7, 14],
  ['faceSkin', 'Face', [0.79, 0.61, 0.54], 0.7, 14],
  ['hair', 'Hair, brown', [0.42, 0.37, 0.3], 0.55, 14],
  ['lips', 'Lips', [0.7, 0.46, 0.45], 0.5, 6],
  ['iris', 'Iris, hazel', [0.42, 0.36, 0.22], 0.6, 2],
];

/** A monochrome portrait in colour: each a colour of its own over a region, to be changed one by one. */
export const colourPortrait = starter(
  'colour-portrait',
  'Colour a portrait',
  'For a monochrome portrait: a colour over each region that is found, in the mode that leaves light and shade alone. Change each colour on its layer.',
  COLOURS.map(([role, name, colour, opacity, feather]): Layer =>
    colouring(`colour-${role}`, name, colour, { where: within(role, feather), mode: 'color', opacity }),
  ),
);
