/** The RGB spaces that documents can be in: a definition each, as published. Another one is another entry. */
import type { Scale } from '../base/geometry.ts';
import type { ColourSpace, SpaceId } from '../base/space.ts';
import { linearToSrgb, srgbToLinear, transferTables } from './transfer.ts';

/** sRGB: IEC 61966-2-1. Matrices: CSS Color 4, section 18; those of the cones: B. Ottosson (2021-01-25), who gives them for sRGB. */
export const srgb: ColourSpace = {
  id: 'srgb',
  name: 'sRGB',
  white: [0.3127, 0.329],
  primaries: { r: [0.64, 0.33], g: [0.3, 0.6], b: [0.15, 0.06] },
  toLight: srgbToLinear,
  fromLight: linearToSrgb,
  tables: transferTables(srgbToLinear, linearToSrgb),
  toXyz: [
    [0.41239079926595934, 0.357584339383878, 0.1804807884018343],
    [0.21263900587151027, 0.715168678767756, 0.07219231536073371],
    [0.01933081871559182, 0.11919477979462598, 0.9505321522496607],
  ],
  fromXyz: [
    [3.2409699419045226, -1.537383177570094, -0.4986107602930034],
    [-0.9692436362808796, 1.8759675015077202, 0.04155505740717559],
    [0.05563007969699366, -0.20397695888897652, 1.0569715142428786],
  ],
  // The two matrices of the section, multiplied out.
  toXyzD50: [
    [0.43606574687427, 0.38515150959016, 0.14307841996514],
    [0.22249317711057, 0.71688701309448, 0.0606198097949524],
    [0.0139239214631694, 0.0970813242314102, 0.714099356815881],
  ],
  toCones: [
    [0.4122214708, 0.5363325363, 0.0514459929],
    [0.2119034982, 0.6806995451, 0.1073969566],
    [0.0883024619, 0.2817188376, 0.6299787005],
  ],
  fromCones: [
    [4.0767416621, -3.3077115913, 0.2309699292],
    [-1.2684380046, 2.6097574011, -0.3413193965],
    [-0.0041960863, -0.7034186147, 1.707614701],
  ],
};

export const spaces: Readonly<Record<SpaceId, ColourSpace>> = { srgb };

/** The space of the pixels at a scale. */
export const spaceOf = ({ space = 'srgb' }: Scale): ColourSpace => spaces[space];
