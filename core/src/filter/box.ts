/**
 * Sums over the square of side 2 radius + 1 about every pixel; at the border over what there is of it. With whole numbers the result
 * is exact (up to 2^53), and so the same for any region that reaches `radius` further.
 * @param counts receives how many pixels each sum is over; filled in when its first value is 0, and then good for further sums of this size
 */
export function boxSums(values: Float64Array, width: number, height: number, radius: number, counts: Float64Array): Float64Array {
  const rows = new Float64Array(values.length);
  // In three stretches, so that the long one in the middle needs no bounds.
  const rising = Math.min(width, radius + 1);
  const falling = Math.max(rising, width - radius);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = 0;
    for (let x = 0; x < Math.min(radius, width); x++) sum += values[row + x]!;
    for (let x = 0; x < rising; x++) {
      if (x + radius < width) sum += values[row + x + radius]!;
      rows[row + x] = sum;
    }
    for (let i = row + rising; i < row + falling; i++) {
      sum += values[i + radius]! - values[i - radius - 1]!;
      rows[i] = sum;
    }
    for (let i = row + falling; i < row + width; i++) {
      sum -= values[i - radius - 1]!;
      rows[i] = sum;
    }
  }
  const out = new Float64Array(values.length);
  const sums = new Float64Array(width);
  for (let y = 0; y < Math.min(radius, height); y++) for (let x = 0; x < width; x++) sums[x] = sums[x]! + rows[y * width + x]!;
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const entering = y + radius < height ? row + radius * width : -1;
    const leaving = row - (radius + 1) * width;
    if (entering >= 0 && leaving >= 0)
      for (let x = 0; x < width; x++) out[row + x] = sums[x] = sums[x]! + rows[entering + x]! - rows[leaving + x]!;
    else
      for (let x = 0; x < width; x++)
        out[row + x] = sums[x] = sums[x]! + (entering >= 0 ? rows[entering + x]! : 0) - (leaving >= 0 ? rows[leaving + x]! : 0);
  }
  // Once for all sums of a filter.
  if (counts[0] === 0)
    for (let y = 0; y < height; y++) {
      const high = Math.min(height - 1, y + radius) - Math.max(0, y - radius) + 1;
      for (let x = 0; x < width; x++) counts[y * width + x] = high * (Math.min(width - 1, x + radius) - Math.max(0, x - radius) + 1);
    }
  return out;
}
