/** Lighting up pixels by one of their measures: what a bar of a histogram or a range of hues stands for in the picture. */
import { drive, type Driver } from '../adjust/driver.ts';
import type { Planes } from '../base/planes.ts';
import type { ColourSpace } from '../base/space.ts';
import { hueMembership, wrapHue, type HueSpan } from '../colour/hueSpan.ts';
import { measureHue, type HueModel } from './hueCensus.ts';

/** A driver of curves and maps, or the hue in a model. */
export type LitBy = Driver | HueModel;

/** What is lit up: pixels by a measure, and how much of each value of it. */
export interface Lit {
  readonly by: LitBy;
  /** 0..1 over the measure's whole range: from nothing to full, or round the hues from 0 degrees. */
  readonly shares: Float32Array;
}

/** Steps over a measure's range. */
const STEPS = 360;

/** What a range of hues catches. */
export const litHues = (by: HueModel, span: HueSpan): Lit => ({
  by,
  shares: Float32Array.from({ length: STEPS }, (_, i) => hueMembership(span, ((i + 0.5) * 360) / STEPS)),
});

/** What lies about a value, 0..1 of the range; soft at its ends. @param reach to either side */
export function litAbout(by: LitBy, at: number, reach: number): Lit {
  if (by === 'oklch' || by === 'hsl') {
    const half = reach * 180;
    return litHues(by, { from: wrapHue(at * 360 - 2 * half), fadeIn: half, span: 2 * half, fadeOut: half });
  }
  return {
    by,
    shares: Float32Array.from({ length: STEPS }, (_, i) => Math.max(0, Math.min(1, 2 - Math.abs((i + 0.5) / STEPS - at) / reach))),
  };
}

/**
 * The measure of the first `n` pixels as numbers of a {@link Lit}'s shares; -1 where a pixel has none, as the hue of a grey.
 */
export function litSteps(space: ColourSpace, by: LitBy, pixels: Planes, n: number, out: Int16Array): void {
  if (by === 'oklch' || by === 'hsl') {
    const measured = new Float64Array(3);
    for (let i = 0; i < n; i++) {
      measureHue(by, space, pixels.r[i]!, pixels.g[i]!, pixels.b[i]!, measured);
      out[i] = measured[1] === 0 ? -1 : Math.min(STEPS - 1, measured[0]! * STEPS);
    }
    return;
  }
  const tones = new Float32Array(n);
  drive(space, by, pixels, n, tones);
  for (let i = 0; i < n; i++) out[i] = Math.max(0, Math.min(STEPS - 1, tones[i]! * STEPS));
}
