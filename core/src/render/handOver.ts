/** The last step: working pixels to the interleaved rows of a file. */
import { displayP3FromSrgb } from '../colour/displayP3.ts';
import type { Samples } from '../base/framing.ts';
import type { Rect } from '../base/geometry.ts';
import { quantise, type Planes } from '../base/planes.ts';

export type OutputSpace = 'srgb' | 'display-p3';

/**
 * Writes a finished tile into interleaved rows.
 * @param out the rows of `band`: Uint8Array for 8 bits (0..255), clamped or not, Uint16Array for 16 (0..65535)
 */
export function writeTile(tile: Rect, pixels: Planes, space: OutputSpace, band: Rect, out: Samples['values']): void {
  const max = out instanceof Uint16Array ? 65535 : 255;
  if (space === 'display-p3') displayP3FromSrgb(pixels, tile.width * tile.height);
  for (let y = 0, i = 0; y < tile.height; y++) {
    let o = ((tile.y - band.y + y) * band.width + tile.x - band.x) * 3;
    for (let x = 0; x < tile.width; x++, i++) {
      out[o++] = quantise(pixels.r[i]!, max);
      out[o++] = quantise(pixels.g[i]!, max);
      out[o++] = quantise(pixels.b[i]!, max);
    }
  }
}
