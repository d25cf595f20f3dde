/** The last step: working pixels to the interleaved rows of a file. */
import { noise } from '../adjust/lattice.ts';
import { planesBetween } from '../colour/betweenSpaces.ts';
import type { Samples } from '../base/framing.ts';
import type { Rect } from '../base/geometry.ts';
import { quantise, type Planes } from '../base/planes.ts';
import type { ColourSpace } from '../base/space.ts';

/**
 * Writes a finished tile into interleaved rows.
 * @param from the space of its pixels, which are changed
 * @param to the space of the rows; what that does not hold is held at its ends, channel by channel
 * @param dither whether 8 bits are dithered, against steps in smooth places; values that 8 bits hold are not touched
 * @param out the rows of `band`: Uint8Array for 8 bits (0..255), clamped or not, Uint16Array for 16 (0..65535)
 */
export function writeTile(
  tile: Rect,
  pixels: Planes,
  [from, to]: readonly [ColourSpace, ColourSpace],
  band: Rect,
  out: Samples['values'],
  dither = false,
): void {
  const max = out instanceof Uint16Array ? 65535 : 255;
  planesBetween(from, to, pixels, tile.width * tile.height);
  if (dither && max === 255) return writeDithered(tile, pixels, band, out);
  for (let y = 0, i = 0; y < tile.height; y++) {
    let o = ((tile.y - band.y + y) * band.width + tile.x - band.x) * 3;
    for (let x = 0; x < tile.width; x++, i++) {
      out[o++] = quantise(pixels.r[i]!, max);
      out[o++] = quantise(pixels.g[i]!, max);
      out[o++] = quantise(pixels.b[i]!, max);
    }
  }
}

function writeDithered(tile: Rect, { r, g, b }: Planes, band: Rect, out: Samples['values']): void {
  const planes = [r, g, b];
  for (let y = 0, i = 0; y < tile.height; y++) {
    let o = ((tile.y - band.y + y) * band.width + tile.x - band.x) * 3;
    for (let x = 0; x < tile.width; x++, i++)
      for (const [c, plane] of planes.entries()) {
        const steps = plane[i]! * 255;
        // What 8 bits hold already stays: white is white, and what no layer touched leaves as it came.
        const held = Math.abs(steps - Math.round(steps)) < HELD;
        out[o++] = quantise(held ? plane[i]! : (steps + ditherAt(tile.x + x, tile.y + y, c)) / 255, 255);
      }
  }
}

/** How far from a whole step a value of 8 bits may have come on its way through 16 bits and floats. */
const HELD = 1e-3;

/**
 * Noise that is added before rounding, in steps: triangular between -1 and 1, which makes the error independent of the signal in its mean
 * and its size. S. P. Lipshitz, R. A. Wannamaker, J. Vanderkooy, "Quantization and dither: a theoretical survey" (JAES 40, 1992). By the
 * place alone, so that parts of a picture fit together.
 */
export const ditherAt = (x: number, y: number, channel: number): number => (noise(x, y, channel) - noise(x, y, channel + 4)) / 2;
