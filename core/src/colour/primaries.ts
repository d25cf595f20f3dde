/** RGB spaces by their primaries and white. */
import { inverse, multiply, times, type Matrix } from '../base/matrix.ts';
import { adaptation, xyz, XYZ_TO_LINEAR_SRGB, type Chromaticity } from './whitePoint.ts';

/** CIE 15:2018, D65 as sRGB and Rec. 709 round it. */
const D65: Chromaticity = [0.3127, 0.329];

/**
 * From linear light of a space to linear light of sRGB; Bradford adaptation where the white is another.
 * The matrix of a space: SMPTE RP 177-1993, section 3.3.
 * @param points white, red, green and blue in CIE 1931 xy
 */
export function toLinearSrgb([white, ...primaries]: readonly [Chromaticity, Chromaticity, Chromaticity, Chromaticity]): Matrix {
  const columns = primaries.map(xyz);
  const unscaled = [0, 1, 2].map((i) => columns.map((column) => column[i])) as unknown as Matrix;
  const scale = times(inverse(unscaled), xyz(white));
  const toXyz = unscaled.map((row) => row.map((v, i) => v * scale[i]!)) as unknown as Matrix;
  return multiply(XYZ_TO_LINEAR_SRGB, multiply(adaptation(white, D65), toXyz));
}
