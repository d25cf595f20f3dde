/** Mixtures of Gaussians: how usual a value is among samples. */

const ROUNDS = 8;
/** Several parts are made of at least so many samples each. */
const LEAST_EACH = 4;
/** Samples from which a mixture is made, at most. */
const SAMPLES = 4000;
/** A sample this far out, in order of distance, begins the next part: not the very farthest, which may be a stray. */
const FAR = 0.97;

/**
 * A mixture of Gaussians with diagonal covariances, by k-means that begins with samples far apart: the same every time.
 * @param features `count` numbers for each of `n` items
 * @param holds which items it is made of
 * @param least variances below this count as this
 * @returns the density at an item; next to nothing everywhere when it is made of too few
 */
export function mixtureOf(
  features: Float32Array,
  count: number,
  n: number,
  holds: (i: number) => boolean,
  parts: number,
  least: number,
): (i: number) => number {
  const all: number[] = [];
  for (let i = 0; i < n; i++) if (holds(i)) all.push(i);
  if (all.length < (parts === 1 ? 1 : parts * LEAST_EACH)) return () => 1e-9;
  const step = Math.max(1, Math.floor(all.length / SAMPLES));
  const samples = all.filter((_, k) => k % step === 0);
  const valueAt = (i: number): Float64Array => Float64Array.from({ length: count }, (_, k) => features[i * count + k]!);
  const distance = (i: number, centre: Float64Array): number => {
    let sum = 0;
    for (let k = 0; k < count; k++) sum += (features[i * count + k]! - centre[k]!) ** 2;
    return sum;
  };
  const centres = [valueAt(all[all.length >> 1]!)];
  while (centres.length < parts) {
    const far = samples.map((i) => [i, Math.min(...centres.map((centre) => distance(i, centre)))] as const).sort((a, b) => a[1] - b[1]);
    centres.push(valueAt(far[Math.floor(far.length * FAR)]![0]));
  }
  let sizes = new Float64Array(parts);
  let variances: Float64Array[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const [sums, squares] = [centres.map(() => new Float64Array(count)), centres.map(() => new Float64Array(count))];
    sizes = new Float64Array(parts);
    for (const i of samples) {
      const nearest = centres.reduce((best, centre, c) => (distance(i, centre) < distance(i, centres[best]!) ? c : best), 0);
      sizes[nearest]!++;
      for (let k = 0; k < count; k++) {
        const v = features[i * count + k]!;
        sums[nearest]![k]! += v;
        squares[nearest]![k]! += v * v;
      }
    }
    variances = centres.map((centre, c) =>
      Float64Array.from({ length: count }, (_, k) => {
        const size = sizes[c]!;
        const mean = size > 0 ? sums[c]![k]! / size : centre[k]!;
        centre[k] = mean;
        return Math.max(least, size > 0 ? squares[c]![k]! / size - mean * mean : 1);
      }),
    );
  }
  const held = centres.flatMap((centre, c) =>
    sizes[c] === 0
      ? []
      : [{ centre, spread: variances[c]!, height: sizes[c]! / samples.length / Math.sqrt(variances[c]!.reduce((a, b) => a * b)) }],
  );
  return (i) => {
    let density = 1e-6;
    for (const { centre, spread, height } of held) {
      let exponent = 0;
      for (let k = 0; k < count; k++) exponent += (features[i * count + k]! - centre[k]!) ** 2 / spread[k]!;
      density += height * Math.exp(-0.5 * exponent);
    }
    return density;
  };
}
