/** RGB spaces by their primaries and white. */
import { inverse, multiply, times, type Matrix } from '../base/matrix.ts';
import type { Chromaticity, ColourSpace } from '../base/space.ts';
import { adaptation, xyz } from './whitePoint.ts';

/** From light of a space to XYZ with its own white: SMPTE RP 177-1993, section 3.3. */
export function matrixOfPrimaries(white: Chromaticity, { r, g, b }: ColourSpace['primaries']): Matrix {
  const columns = [r, g, b].map(xyz);
  const unscaled = [0, 1, 2].map((i) => columns.map((column) => column[i])) as unknown as Matrix;
  const scale = times(inverse(unscaled), xyz(white));
  return unscaled.map((row) => row.map((v, i) => v * scale[i]!)) as unknown as Matrix;
}

/**
 * From light of a space, given by its points, to light of another; Bradford adaptation where the white is another.
 * @param points white, red, green and blue in CIE 1931 xy
 */
export function matrixTo(target: ColourSpace, [white, r, g, b]: readonly [Chromaticity, Chromaticity, Chromaticity, Chromaticity]): Matrix {
  return multiply(target.fromXyz, multiply(adaptation(white, target.white), matrixOfPrimaries(white, { r, g, b })));
}
