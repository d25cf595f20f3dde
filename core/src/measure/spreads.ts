import { createPlanes, readRaster } from '../base/planes.ts';
import { planesToOklab } from '../colour/oklabPlanes.ts';
import { spaceOf } from '../colour/spaces.ts';
import type { Measurement } from './measurement.ts';

/** Standard deviations in OKLCh: of the hue, in degrees, about its mean direction, and of chroma and lightness. */
export interface Spreads {
  readonly hue: number;
  readonly chroma: number;
  readonly lightness: number;
}

const deviation = (sum: number, squares: number, n: number): number => Math.sqrt(Math.max(0, squares / n - (sum / n) ** 2));

/** How varied what a mask lets in is; null where that is nothing. */
export const spreads: Measurement<'spreads', object, Spreads | null> = {
  kind: 'spreads',
  needs: 'picture',
  measure(_settings, { picture, weight, scale }) {
    const n = picture.r.length;
    const lab = createPlanes(n);
    readRaster(picture, picture.area, lab);
    planesToOklab(spaceOf(scale), lab, n);
    let [total, x, y] = [0, 0, 0];
    let [light, lightSquares, chroma, chromaSquares] = [0, 0, 0, 0];
    const shareAt = (i: number): number => (weight ? weight[i]! / 65535 : 1);
    for (let i = 0; i < n; i++) {
      const share = shareAt(i);
      const c = Math.hypot(lab.g[i]!, lab.b[i]!);
      total += share;
      light += share * lab.r[i]!;
      lightSquares += share * lab.r[i]! ** 2;
      chroma += share * c;
      chromaSquares += share * c * c;
      if (c === 0) continue;
      x += (share * lab.g[i]!) / c;
      y += (share * lab.b[i]!) / c;
    }
    if (total === 0) return null;
    const middle = Math.atan2(y, x);
    let [turned, turnedSquares] = [0, 0];
    for (let i = 0; i < n; i++) {
      const share = shareAt(i);
      if (share === 0) continue;
      const off = Math.atan2(lab.b[i]!, lab.g[i]!) - middle;
      const degrees = (Math.atan2(Math.sin(off), Math.cos(off)) * 180) / Math.PI;
      turned += share * degrees;
      turnedSquares += share * degrees * degrees;
    }
    return {
      hue: deviation(turned, turnedSquares, total),
      chroma: deviation(chroma, chromaSquares, total),
      lightness: deviation(light, lightSquares, total),
    };
  },
};
