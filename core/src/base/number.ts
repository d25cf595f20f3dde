/** A number within bounds; NaN gives the lower. */
export const clamp = (v: number, low: number, high: number): number => (v > low ? (v < high ? v : high) : low);

/** A number within 0..1; NaN gives 0. */
export const unit = (v: number): number => (v > 0 ? (v < 1 ? v : 1) : 0);

/** From 0 to 1 without corners while `t` goes from 0 to 1; held outside, and 0 for NaN. */
export const smoothStep = (t: number): number => (t > 0 ? (t < 1 ? t * t * (3 - 2 * t) : 1) : 0);

/** Rounded to a tenth: how exactly places and angles that are dragged are written down. */
export const toTenth = (v: number): number => Math.round(v * 10) / 10;

/**
 * A share as it is written on screens: what is little is never written as nothing, nor what is nearly all as all.
 * @param share 0..1
 * @example
 * [0, 0.0002, 0.031, 0.42, 0.999, 1].map(percent); // → ['0 %', 'under 0.1 %', '3.1 %', '42 %', 'over 99 %', '100 %']
 */
export function percent(share: number): string {
  if (share > 0 && share < 0.0005) return 'under 0.1 %';
  if (share < 1 && share >= 0.995) return 'over 99 %';
  return `${(share * 100).toFixed(share > 0 && share < 0.0995 ? 1 : 0)} %`;
}
