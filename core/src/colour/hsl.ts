/** HSL as CSS Color 4, section 7 defines it. Hue 0..360 with red 0, yellow 60, green 120; saturation and lightness 0..1. */
export interface Hsl {
  h: number;
  s: number;
  l: number;
}

/** Encoded RGB (0..1) to HSL. The hue of a grey is 0. */
export function rgbToHsl(r: number, g: number, b: number): Hsl {
  const max = Math.max(r, g, b);
  const min = Math.min(r, g, b);
  const d = max - min;
  const l = (max + min) / 2;
  // Differences too small for the mean to show count as none.
  if (d === 0 || l === 0 || l === 1) return { h: 0, s: 0, l };
  const s = d / (2 * Math.min(l, 1 - l));
  const sextant = max === r ? (g - b) / d + (g < b ? 6 : 0) : max === g ? (b - r) / d + 2 : (r - g) / d + 4;
  return { h: sextant * 60, s, l };
}

/** One channel of HSL to RGB: `n` is 0 for red, 8 for green, 4 for blue (CSS Color 4, section 7.1). Hue in degrees, 0..360. */
export function hslChannel(h: number, s: number, l: number, n: number): number {
  let k = n + h / 30;
  if (k >= 12) k -= 12;
  const a = s * (l < 1 - l ? l : 1 - l);
  let t = k - 3 < 9 - k ? k - 3 : 9 - k;
  if (t > 1) t = 1;
  if (t < -1) t = -1;
  return l - a * t;
}
