import { createPlanes, readRaster } from '../base/planes.ts';
import { planesToOklab } from '../colour/oklabPlanes.ts';
import { spaceOf } from '../colour/spaces.ts';
import type { Measurement } from './measurement.ts';

/** Standard deviations: of the hue, in degrees, about its mean direction, and of chroma and lightness. */
export interface Spreads {
  readonly hue: number;
  readonly chroma: number;
  readonly lightness: number;
}

const deviation = (sum: number, squares: number, n: number): number => Math.sqrt(Math.max(0, squares / n - (sum / n) ** 2));

/**
 * The spreads of colours given by lightness and two opponent axes, in their units; null where nothing counts.
 * @param shareAt how much a pixel counts
 */
export function spreadsOf(
  [light, a, b]: readonly [ArrayLike<number>, ArrayLike<number>, ArrayLike<number>],
  n: number,
  shareAt: (i: number) => number,
): Spreads | null {
  let [total, x, y] = [0, 0, 0];
  let [lights, lightSquares, chroma, chromaSquares] = [0, 0, 0, 0];
  for (let i = 0; i < n; i++) {
    const share = shareAt(i);
    const c = Math.hypot(a[i]!, b[i]!);
    total += share;
    lights += share * light[i]!;
    lightSquares += share * light[i]! ** 2;
    chroma += share * c;
    chromaSquares += share * c * c;
    if (c === 0) continue;
    x += (share * a[i]!) / c;
    y += (share * b[i]!) / c;
  }
  if (total === 0) return null;
  const middle = Math.atan2(y, x);
  let [turned, turnedSquares] = [0, 0];
  for (let i = 0; i < n; i++) {
    const share = shareAt(i);
    if (share === 0) continue;
    const off = Math.atan2(b[i]!, a[i]!) - middle;
    const degrees = (Math.atan2(Math.sin(off), Math.cos(off)) * 180) / Math.PI;
    turned += share * degrees;
    turnedSquares += share * degrees * degrees;
  }
  return {
    hue: deviation(turned, turnedSquares, total),
    chroma: deviation(chroma, chromaSquares, total),
    lightness: deviation(lights, lightSquares, total),
  };
}

/** How varied what a mask lets in is, in OKLCh; null where that is nothing. */
export const spreads: Measurement<'spreads', object, Spreads | null> = {
  kind: 'spreads',
  needs: 'picture',
  measure(_settings, { picture, weight, scale }) {
    const n = picture.r.length;
    const lab = createPlanes(n);
    readRaster(picture, picture.area, lab);
    planesToOklab(spaceOf(scale), lab, n);
    return spreadsOf([lab.r, lab.g, lab.b], n, (i) => (weight ? weight[i]! / 65535 : 1));
  },
};
