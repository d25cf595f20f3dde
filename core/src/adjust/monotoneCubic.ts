/**
 * A curve through points that nowhere overshoots them: piecewise cubic Hermite interpolation with the tangents of F. N. Fritsch and
 * R. E. Carlson, "Monotone Piecewise Cubic Interpolation" (SIAM J. Numer. Anal. 17, 1980): three-point differences, 0 at local extremes,
 * and shortened into the circle alpha^2 + beta^2 <= 9 inside which a piece is monotone.
 * @param points [x, y] with x growing; none: the identity, one: a constant
 * @returns the curve; beyond the first and last point it stays at their height
 */
export function monotoneCubic(points: readonly (readonly [number, number])[]): (x: number) => number {
  const n = points.length;
  if (n === 0) return (x) => x;
  if (n === 1) return () => points[0]![1];
  const slopes = Array.from({ length: n - 1 }, (_, k) => {
    const [a, b] = [points[k]!, points[k + 1]!];
    return (b[1] - a[1]) / Math.max(1e-9, b[0] - a[0]);
  });
  const tangents = Array.from({ length: n }, (_, k) => {
    if (k === 0) return slopes[0]!;
    if (k === n - 1) return slopes[n - 2]!;
    const [before, after] = [slopes[k - 1]!, slopes[k]!];
    return before * after > 0 ? (before + after) / 2 : 0;
  });
  for (const [k, slope] of slopes.entries()) {
    if (slope === 0) {
      tangents[k] = tangents[k + 1] = 0;
      continue;
    }
    const [alpha, beta] = [tangents[k]! / slope, tangents[k + 1]! / slope];
    const size = alpha * alpha + beta * beta;
    if (size <= 9) continue;
    const shorten = 3 / Math.sqrt(size);
    tangents[k] = shorten * alpha * slope;
    tangents[k + 1] = shorten * beta * slope;
  }
  return (x) => {
    if (!(x > points[0]![0])) return points[0]![1];
    if (x >= points[n - 1]![0]) return points[n - 1]![1];
    let k = 0;
    while (x >= points[k + 1]![0]) k++;
    const [a, b] = [points[k]!, points[k + 1]!];
    const h = b[0] - a[0];
    const t = (x - a[0]) / h;
    const [t2, t3] = [t * t, t * t * t];
    return (
      (2 * t3 - 3 * t2 + 1) * a[1] + (t3 - 2 * t2 + t) * h * tangents[k]! + (3 * t2 - 2 * t3) * b[1] + (t3 - t2) * h * tangents[k + 1]!
    );
  };
}
