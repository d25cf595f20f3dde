/** The RGB spaces that documents can be in: a definition each, as CSS Color 4, section 10 gives them. Another one is another entry. */
import type { Scale } from '../base/geometry.ts';
import { inverse, multiply } from '../base/matrix.ts';
import type { Chromaticity, ColourSpace, CurveNumbers, SpaceId } from '../base/space.ts';
import { matrixOfPrimaries, matrixTo } from './primaries.ts';
import { curveOf, linearToSrgb, srgbToLinear, transferTables, type TransferCurve } from './transfer.ts';
import { adaptation } from './whitePoint.ts';

const SRGB_CURVE: CurveNumbers = { exponent: 2.4, slope: 12.92, from: 0.04045, offset: 0.055 };

/** sRGB: IEC 61966-2-1. Matrices: CSS Color 4, section 18; those of the cones: B. Ottosson (2021-01-25), who gives them for sRGB. */
export const srgb: ColourSpace = {
  id: 'srgb',
  name: 'sRGB',
  white: [0.3127, 0.329],
  primaries: { r: [0.64, 0.33], g: [0.3, 0.6], b: [0.15, 0.06] },
  curve: SRGB_CURVE,
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

const D65: Chromaticity = [0.3127, 0.329];
const D50: Chromaticity = [0.3457, 0.3585];

/** A space by its points and its curve. OKLab is defined by way of sRGB; so is it here, with the same cones. */
function spaceFrom(
  id: SpaceId,
  name: string,
  white: Chromaticity,
  primaries: ColourSpace['primaries'],
  curve: CurveNumbers,
  { toLight, fromLight }: TransferCurve = curveOf(curve),
): ColourSpace {
  const toXyz = matrixOfPrimaries(white, primaries);
  const toSrgb = multiply(srgb.fromXyz, multiply(adaptation(white, D65), toXyz));
  const toCones = multiply(srgb.toCones, toSrgb);
  return {
    id,
    name,
    white,
    primaries,
    curve,
    toLight,
    fromLight,
    tables: transferTables(toLight, fromLight),
    toXyz,
    fromXyz: inverse(toXyz),
    toXyzD50: multiply(adaptation(white, D50), toXyz),
    toCones,
    fromCones: inverse(toCones),
  };
}

/** By how much they hold, the smallest first. */
export const spaces: Readonly<Record<SpaceId, ColourSpace>> = {
  srgb,
  'display-p3': spaceFrom('display-p3', 'Display P3', D65, { r: [0.68, 0.32], g: [0.265, 0.69], b: [0.15, 0.06] }, SRGB_CURVE, srgb),
  'a98-rgb': spaceFrom(
    'a98-rgb',
    'A98 RGB',
    D65,
    { r: [0.64, 0.33], g: [0.21, 0.71], b: [0.15, 0.06] },
    { exponent: 563 / 256, slope: 1, from: 0, offset: 0 },
  ),
  // Its reference curve is a camera's, not a display's: ITU-R BT.2020-2, table 4.
  rec2020: spaceFrom(
    'rec2020',
    'Rec. 2020',
    D65,
    { r: [0.708, 0.292], g: [0.17, 0.797], b: [0.131, 0.046] },
    { exponent: 1 / 0.45, slope: 4.5, from: 0.018053968510807 * 4.5, offset: 0.09929682680944 },
  ),
  'prophoto-rgb': spaceFrom(
    'prophoto-rgb',
    'ProPhoto RGB',
    D50,
    { r: [0.734699, 0.265301], g: [0.159597, 0.840403], b: [0.036598, 0.000105] },
    { exponent: 1.8, slope: 16, from: 16 / 512, offset: 0 },
  ),
};

/** Light within this of 0..1 counts as held. */
const NEARLY = 0.003;

/** The smallest space that holds one given by its points; the largest where none does. @param points white, red, green, blue */
export const smallestHolding = (points: Parameters<typeof matrixTo>[1]): SpaceId =>
  spaceIds.find((id) =>
    matrixTo(spaces[id], points)
      .flat()
      .every((v) => v > -NEARLY && v < 1 + NEARLY),
  ) ?? 'prophoto-rgb';

export const spaceIds = Object.keys(spaces) as SpaceId[];

/** The space of the pixels at a scale. */
export const spaceOf = ({ space = 'srgb' }: Scale): ColourSpace => spaces[space];
