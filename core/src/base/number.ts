/** From 0 to 1 without corners while `t` goes from 0 to 1; held outside, and 0 for NaN. */
export const smoothStep = (t: number): number => (t > 0 ? (t < 1 ? t * t * (3 - 2 * t) : 1) : 0);
