/**
 * A hue index without atan2: the position of (a, b) on the diamond |a| + |b| = 1, which grows with the angle.
 * Tables over the index turn any function of the hue angle into one look-up per pixel.
 */
export const HUE_INDEX_STEPS = 4096;

/** @returns 0..HUE_INDEX_STEPS, growing with the angle of (a, b); 0 where both are 0 */
export function hueIndex(a: number, b: number): number {
  const size = (a < 0 ? -a : a) + (b < 0 ? -b : b);
  if (!(size > 0)) return 0;
  const p = a / size;
  return (b >= 0 ? 1 - p : 3 + p) * (HUE_INDEX_STEPS / 4);
}

/** The hue angle in degrees, 0..360, that an index stands for. */
export function hueOfIndex(index: number): number {
  const q = (index / HUE_INDEX_STEPS) * 4;
  const a = q <= 2 ? 1 - q : q - 3;
  const b = q <= 2 ? 1 - Math.abs(a) : Math.abs(a) - 1;
  return ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
}
