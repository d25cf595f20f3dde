/**
 * Gaussian blur of 16-bit planes. Sums are whole numbers or taken in a fixed order, so that a pixel's result does not depend
 * on the region it was computed in, as long as the region reaches {@link gaussianReach} beyond it.
 */

/** Up to this sigma (in pixels) the blur is a direct convolution, above it three box passes. */
const DIRECT_LIMIT = 4;

/**
 * The radii of three box filters that together approximate a Gaussian.
 * Source: W. M. Wells, "Efficient synthesis of Gaussian filters by cascaded uniform filters" (IEEE PAMI 8, 1986): the variances add up.
 */
function boxRadii(sigma: number): [number, number, number] {
  const ideal = Math.sqrt((12 * sigma * sigma) / 3 + 1);
  let low = Math.floor(ideal);
  if (low % 2 === 0) low--;
  const lows = Math.round((12 * sigma * sigma - 3 * low * low - 12 * low - 9) / (-4 * low - 4));
  const radius = (i: number): number => ((i < lows ? low : low + 2) - 1) / 2;
  return [radius(0), radius(1), radius(2)];
}

/** How many pixels away a pixel can still count. */
export function gaussianReach(sigma: number): number {
  if (!(sigma > 0)) return 0;
  if (sigma <= DIRECT_LIMIT) return Math.ceil(sigma * 3);
  const [a, b, c] = boxRadii(sigma);
  return a + b + c;
}

/**
 * Blurs a plane in place; pixels beyond its border repeat the border.
 * @param sigma standard deviation in pixels; 0 or less changes nothing
 */
export function gaussianBlur(plane: Uint16Array, width: number, height: number, sigma: number): void {
  if (!(sigma > 0) || width < 1 || height < 1) return;
  const spare = new Uint16Array(plane.length);
  if (sigma <= DIRECT_LIMIT) {
    const kernel = gaussianKernel(sigma);
    convolveRows(plane, spare, width, height, kernel);
    convolveColumns(spare, plane, width, height, kernel);
    return;
  }
  for (const radius of boxRadii(sigma)) {
    boxRows(plane, spare, width, height, radius);
    boxColumns(spare, plane, width, height, radius);
  }
}

/** Half of a normalised kernel: the weight at distance 0, 1, 2, ... */
function gaussianKernel(sigma: number): Float64Array {
  const kernel = Float64Array.from({ length: Math.ceil(sigma * 3) + 1 }, (_, i) => Math.exp(-(i * i) / (2 * sigma * sigma)));
  const sum = kernel.reduce((total, weight) => total + 2 * weight, -kernel[0]!);
  return kernel.map((weight) => weight / sum);
}

/** A row with its border repeated `reach` times on either side: inner loops then need no bounds. */
function padRow(from: Uint16Array, row: number, width: number, reach: number, line: Float64Array): void {
  line.fill(from[row]!, 0, reach);
  for (let x = 0; x < width; x++) line[reach + x] = from[row + x]!;
  line.fill(from[row + width - 1]!, reach + width);
}

function convolveRows(from: Uint16Array, to: Uint16Array, width: number, height: number, kernel: Float64Array): void {
  const reach = kernel.length - 1;
  const line = new Float64Array(width + 2 * reach);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    padRow(from, row, width, reach, line);
    for (let x = 0; x < width; x++) {
      const at = x + reach;
      let sum = line[at]! * kernel[0]!;
      for (let k = 1; k <= reach; k++) sum += (line[at - k]! + line[at + k]!) * kernel[k]!;
      to[row + x] = (sum + 0.5) | 0;
    }
  }
}

function convolveColumns(from: Uint16Array, to: Uint16Array, width: number, height: number, kernel: Float64Array): void {
  const reach = kernel.length - 1;
  const sums = new Float64Array(width);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) sums[x] = from[row + x]! * kernel[0]!;
    for (let k = 1; k <= reach; k++) {
      const above = (y - k < 0 ? 0 : y - k) * width;
      const under = (y + k >= height ? height - 1 : y + k) * width;
      const weight = kernel[k]!;
      for (let x = 0; x < width; x++) sums[x] = sums[x]! + (from[above + x]! + from[under + x]!) * weight;
    }
    for (let x = 0; x < width; x++) to[row + x] = (sums[x]! + 0.5) | 0;
  }
}

function boxRows(from: Uint16Array, to: Uint16Array, width: number, height: number, radius: number): void {
  const share = 1 / (2 * radius + 1);
  const line = new Float64Array(width + 2 * radius + 1);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    padRow(from, row, width, radius, line);
    let sum = 0;
    for (let k = 0; k < 2 * radius; k++) sum += line[k]!;
    for (let x = 0; x < width; x++) {
      sum += line[x + 2 * radius]!;
      to[row + x] = (sum * share + 0.5) | 0;
      sum -= line[x]!;
    }
  }
}

function boxColumns(from: Uint16Array, to: Uint16Array, width: number, height: number, radius: number): void {
  const share = 1 / (2 * radius + 1);
  const sums = new Float64Array(width);
  const rowAt = (y: number): number => (y < 0 ? 0 : y >= height ? height - 1 : y) * width;
  for (let k = -radius; k < radius; k++) {
    const row = rowAt(k);
    for (let x = 0; x < width; x++) sums[x] = sums[x]! + from[row + x]!;
  }
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const entering = rowAt(y + radius);
    const leaving = rowAt(y - radius);
    for (let x = 0; x < width; x++) {
      const sum = sums[x]! + from[entering + x]!;
      to[row + x] = (sum * share + 0.5) | 0;
      sums[x] = sum - from[leaving + x]!;
    }
  }
}
