/** The last step: working pixels to the interleaved rows of a file. */
import { planesBetween } from '../colour/betweenSpaces.ts';
import type { Samples } from '../base/framing.ts';
import type { Rect } from '../base/geometry.ts';
import { quantise, type Planes } from '../base/planes.ts';
import type { ColourSpace } from '../base/space.ts';

/**
 * Writes a finished tile into interleaved rows.
 * @param from the space of its pixels, which are changed
 * @param to the space of the rows; what that does not hold is held at its ends, channel by channel
 * @param out the rows of `band`: Uint8Array for 8 bits (0..255), clamped or not, Uint16Array for 16 (0..65535)
 */
export function writeTile(
  tile: Rect,
  pixels: Planes,
  [from, to]: readonly [ColourSpace, ColourSpace],
  band: Rect,
  out: Samples['values'],
): void {
  const max = out instanceof Uint16Array ? 65535 : 255;
  planesBetween(from, to, pixels, tile.width * tile.height);
  for (let y = 0, i = 0; y < tile.height; y++) {
    let o = ((tile.y - band.y + y) * band.width + tile.x - band.x) * 3;
    for (let x = 0; x < tile.width; x++, i++) {
      out[o++] = quantise(pixels.r[i]!, max);
      out[o++] = quantise(pixels.g[i]!, max);
      out[o++] = quantise(pixels.b[i]!, max);
    }
  }
}
