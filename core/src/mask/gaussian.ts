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

function convolveRows(from: Uint16Array, to: Uint16Array, width: number, height: number, kernel: Float64Array): void {
  const reach = kernel.length - 1;
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      let sum = from[row + x]! * kernel[0]!;
      for (let k = 1; k <= reach; k++) {
        const left = x - k < 0 ? 0 : x - k;
        const right = x + k >= width ? width - 1 : x + k;
        sum += (from[row + left]! + from[row + right]!) * kernel[k]!;
      }
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
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const last = row + width - 1;
    let sum = from[row]! * (radius + 1);
    for (let k = 1; k <= radius; k++) sum += from[Math.min(row + k, last)]!;
    for (let x = 0; x < width; x++) {
      to[row + x] = (sum * share + 0.5) | 0;
      sum += from[Math.min(row + x + radius + 1, last)]! - from[Math.max(row + x - radius, row)]!;
    }
  }
}

function boxColumns(from: Uint16Array, to: Uint16Array, width: number, height: number, radius: number): void {
  const share = 1 / (2 * radius + 1);
  const sums = new Float64Array(width);
  const addRow = (y: number, sign: number): void => {
    const row = (y < 0 ? 0 : y >= height ? height - 1 : y) * width;
    for (let x = 0; x < width; x++) sums[x] = sums[x]! + sign * from[row + x]!;
  };
  for (let k = -radius; k <= radius; k++) addRow(k, 1);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) to[row + x] = (sums[x]! * share + 0.5) | 0;
    addRow(y + radius + 1, 1);
    addRow(y - radius, -1);
  }
}
