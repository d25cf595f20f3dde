/**
 * Sums over the square of side 2 radius + 1 about every pixel; at the border over what there is of it. With whole numbers the result
 * is exact (up to 2^53), and so the same for any region that reaches `radius` further.
 * @param counts receives how many pixels each sum is over
 */
export function boxSums(values: Float64Array, width: number, height: number, radius: number, counts: Float64Array): Float64Array {
  const rows = new Float64Array(values.length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = 0;
    for (let x = 0; x < Math.min(radius, width); x++) sum += values[row + x]!;
    for (let x = 0; x < width; x++) {
      if (x + radius < width) sum += values[row + x + radius]!;
      if (x - radius - 1 >= 0) sum -= values[row + x - radius - 1]!;
      rows[row + x] = sum;
    }
  }
  const out = new Float64Array(values.length);
  const sums = new Float64Array(width);
  const addRow = (y: number, sign: 1 | -1): void => {
    const row = y * width;
    if (sign === 1) for (let x = 0; x < width; x++) sums[x] = sums[x]! + rows[row + x]!;
    else for (let x = 0; x < width; x++) sums[x] = sums[x]! - rows[row + x]!;
  };
  for (let y = 0; y < Math.min(radius, height); y++) addRow(y, 1);
  for (let y = 0; y < height; y++) {
    if (y + radius < height) addRow(y + radius, 1);
    if (y - radius - 1 >= 0) addRow(y - radius - 1, -1);
    out.set(sums, y * width);
    const high = Math.min(height - 1, y + radius) - Math.max(0, y - radius) + 1;
    for (let x = 0; x < width; x++) counts[y * width + x] = high * (Math.min(width - 1, x + radius) - Math.max(0, x - radius) + 1);
  }
  return out;
}
