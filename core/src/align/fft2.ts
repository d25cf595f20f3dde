/** The Fourier transform of square complex pictures, by the rows and then the columns of them. */
import FFT from 'fft.js';

/** Real and imaginary parts in turn, rows one after another. */
export type Complex = Float64Array;

interface Plan {
  readonly fft: FFT;
  readonly row: Float64Array;
  readonly made: Float64Array;
}
const plans = new Map<number, Plan>();

function planFor(side: number): Plan {
  let plan = plans.get(side);
  if (!plan) plans.set(side, (plan = { fft: new FFT(side), row: new Float64Array(2 * side), made: new Float64Array(2 * side) }));
  return plan;
}

/** Transforms in place. @param side of the square, a power of two */
export function fft2(picture: Complex, side: number, inverse = false): Complex {
  const { fft, row, made } = planFor(side);
  const run = (): void => {
    if (inverse) fft.inverseTransform(made, row);
    else fft.transform(made, row);
  };
  for (let y = 0; y < side; y++) {
    row.set(picture.subarray(y * 2 * side, (y + 1) * 2 * side));
    run();
    picture.set(made, y * 2 * side);
  }
  for (let x = 0; x < side; x++) {
    for (let y = 0, i = 2 * x; y < side; y++, i += 2 * side) {
      row[2 * y] = picture[i]!;
      row[2 * y + 1] = picture[i + 1]!;
    }
    run();
    for (let y = 0, i = 2 * x; y < side; y++, i += 2 * side) {
      picture[i] = made[2 * y]!;
      picture[i + 1] = made[2 * y + 1]!;
    }
  }
  return picture;
}
