/** How like a colour the photograph's pixels are. */
import type { ColourSpace } from '../base/space.ts';
import { rgbToOklab } from '../colour/oklab.ts';
import { planesToOklab } from '../colour/oklabPlanes.ts';
import type { Colour } from '../colour/colour.ts';
import type { Planes } from '../base/planes.ts';
import type { OklabPlanes } from './part.ts';
import { smoothStep } from '../base/number.ts';

/** The first `n` pixels in OKLab, in the proportions of {@link nearer}. */
export function oklabOf(space: ColourSpace, pixels: Planes, n: number): OklabPlanes {
  const lab = { r: pixels.r.slice(0, n), g: pixels.g.slice(0, n), b: pixels.b.slice(0, n) };
  planesToOklab(space, lab, n);
  for (let i = 0; i < n; i++) {
    lab.r[i] = lab.r[i]! * 100;
    lab.g[i] = lab.g[i]! * 200;
    lab.b[i] = lab.b[i]! * 200;
  }
  return { l: lab.r, a: lab.g, b: lab.b };
}

/** A colour in OKLab, in the proportions of {@link nearer}. */
export function labOfColour(space: ColourSpace, [r, g, b]: Colour): readonly [number, number, number] {
  const lab = new Float64Array(3);
  rgbToOklab(space, r, g, b, lab);
  return [lab[0]! * 100, lab[1]! * 200, lab[2]! * 200];
}

/**
 * The cover by the distance to the nearest colour that is caught: full up to `tolerance`, nothing from `tolerance + softness` on, smooth
 * between. Where a colour that is left to others is as near, half of it; the nearer one decides, over a distance of `softness`.
 * @param away distance to the nearest colour that is left to others; Infinity where there is none
 */
export function nearestDecides(near: number, away: number, tolerance: number, softness: number): number {
  const t = smoothStep((tolerance + softness - near) / softness);
  if (t === 0) return 0;
  const lead = 0.5 + (away - near) / softness;
  return lead >= 1 ? t : lead > 0 ? t * lead : 0;
}

/**
 * Distances to a colour: the Euclidean distance in OKLab (deltaEOK of CSS Color 4) with a and b counted twice (deltaEOK2, from memory:
 * beside L they are too small for small differences), times 100, with the difference in lightness multiplied by `lightness`. About 2 is just
 * noticeable.
 * @param nearest receives the smaller of what it holds and the distance
 */
export function nearer(space: ColourSpace, { l, a, b }: OklabPlanes, colour: Colour, lightness: number, nearest: Float32Array): void {
  const [cl, ca, cb] = labOfColour(space, colour);
  for (let i = 0; i < nearest.length; i++) {
    const dl = (l[i]! - cl) * lightness;
    const da = a[i]! - ca;
    const db = b[i]! - cb;
    const distance = Math.sqrt(dl * dl + da * da + db * db);
    if (distance < nearest[i]!) nearest[i] = distance;
  }
}
