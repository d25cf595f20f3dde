/** Phase correlation: C. D. Kuglin, D. C. Hines, "The phase correlation image alignment method" (1975). */
import { fft2, type Complex } from './fft2.ts';

export interface Peak {
  /** How far the second picture lies from the first. */
  readonly dx: number;
  readonly dy: number;
  /** How far the peak stands out, in standard deviations of all there is. */
  readonly score: number;
}

/**
 * Where one transformed picture lies on another.
 * @param whiten from 0, plain correlation, to 1, of the phase alone
 * @param limit the furthest that is looked for
 */
export function peakOf(first: Complex, second: Complex, side: number, whiten: number, limit: number): Peak {
  const product = new Float64Array(2 * side * side);
  for (let i = 0; i < product.length; i += 2) {
    const re = second[i]! * first[i]! + second[i + 1]! * first[i + 1]!;
    const im = second[i + 1]! * first[i]! - second[i]! * first[i + 1]!;
    const weight = (re * re + im * im + 1e-18) ** (whiten / 2);
    product[i] = re / weight;
    product[i + 1] = im / weight;
  }
  fft2(product, side, true);
  const at = (x: number, y: number): number => product[(((y + side) % side) * side + ((x + side) % side)) * 2]!;
  let [best, bx, by, sum, squares] = [-Infinity, 0, 0, 0, 0];
  for (let y = 0, i = 0; y < side; y++) {
    const dy = y > side / 2 ? y - side : y;
    for (let x = 0; x < side; x++, i += 2) {
      const value = product[i]!;
      sum += value;
      squares += value * value;
      const dx = x > side / 2 ? x - side : x;
      if (value > best && Math.abs(dx) <= limit && Math.abs(dy) <= limit) [best, bx, by] = [value, dx, dy];
    }
  }
  const n = side * side;
  const deviation = Math.sqrt(squares / n) || 1;
  return {
    dx: bx + between(at(bx - 1, by), best, at(bx + 1, by)),
    dy: by + between(at(bx, by - 1), best, at(bx, by + 1)),
    score: (best - sum / n) / deviation,
  };
}

/** The top of a parabola through three values, from the middle one. */
function between(left: number, middle: number, right: number): number {
  const bend = left - 2 * middle + right;
  return bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (left - right)) / bend)) : 0;
}
