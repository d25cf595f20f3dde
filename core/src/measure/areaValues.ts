/** The colours of an area, in the numbers of a reading. */
import type { Planes } from '../base/planes.ts';
import type { ColourSpace } from '../base/space.ts';
import type { Colour } from '../colour/colour.ts';
import { rgbToLab } from '../colour/lab.ts';
import { spreadsOf, type Spreads } from './spreads.ts';

export interface AreaValues {
  /** Encoded, 0..1: the mean of the pixels as they are kept. */
  readonly mean: Colour;
  /** In CIE LCh, D50. */
  readonly spread: Spreads;
  readonly lightest: Colour;
  readonly darkest: Colour;
  /** The means of what is lighter and of what is darker than the mean. */
  readonly lights: Colour;
  readonly shadows: Colour;
  /** Share of the pixels in which a channel is at an end, 0..1. */
  readonly clipped: number;
}

/** Half a step of eight bits: nearer to an end than this, a channel is at it. */
const END = 0.5 / 255;
/** A pixel that counts less than this is not taken for the lightest or the darkest. */
const INSIDE = 0.5;

/**
 * @param n how many of the pixels there are
 * @param weight how much each counts, 0..65535; null: all alike
 * @returns null where nothing counts
 * @example
 * const pixels = { r: Float32Array.of(0, 1), g: Float32Array.of(0, 1), b: Float32Array.of(0, 1) };
 * const { mean, spread, clipped } = valuesOf(srgb, pixels, 2, null);
 * [mean[0], Math.round(spread.lightness), clipped]; // → [0.5, 50, 1]
 */
export function valuesOf(space: ColourSpace, { r, g, b }: Planes, n: number, weight: Uint16Array | null): AreaValues | null {
  const shareAt = (i: number): number => (weight ? weight[i]! / 65535 : 1);
  const lab = [new Float64Array(n), new Float64Array(n), new Float64Array(n)] as const;
  const sum: Colour = [0, 0, 0];
  let [total, ends] = [0, 0];
  let [light, dark] = [-1, -1];
  for (let i = 0; i < n; i++) {
    const share = shareAt(i);
    if (share === 0) continue;
    const [x, y, z] = [held(r[i]!), held(g[i]!), held(b[i]!)];
    const { l, a, b: yellow } = rgbToLab(space, x, y, z);
    lab[0][i] = l;
    lab[1][i] = a;
    lab[2][i] = yellow;
    sum[0] += share * x;
    sum[1] += share * y;
    sum[2] += share * z;
    total += share;
    if (Math.min(x, y, z) <= END || Math.max(x, y, z) >= 1 - END) ends += share;
    if (share < INSIDE) continue;
    if (light < 0 || l > lab[0][light]!) light = i;
    if (dark < 0 || l < lab[0][dark]!) dark = i;
  }
  const spread = spreadsOf(lab, n, shareAt);
  if (!spread) return null;
  const mean = sum.map((v) => v / total) as Colour;
  const middle = rgbToLab(space, ...mean).l;
  const halves = [0, 1].map((): [...Colour, number] => [0, 0, 0, 0]);
  for (let i = 0; i < n; i++) {
    const share = shareAt(i);
    const half = halves[lab[0][i]! > middle ? 1 : 0]!;
    for (const [c, plane] of [r, g, b].entries()) half[c]! += share * held(plane[i]!);
    half[3] += share;
  }
  const [shadows, lights] = halves.map(([x, y, z, share]): Colour => (share > 0 ? [x / share, y / share, z / share] : mean)) as [
    Colour,
    Colour,
  ];
  const at = (i: number): Colour => (i < 0 ? mean : [held(r[i]!), held(g[i]!), held(b[i]!)]);
  return { mean, spread, lightest: at(light), darkest: at(dark), lights, shadows, clipped: ends / total };
}

const held = (v: number): number => (v > 0 ? (v < 1 ? v : 1) : 0);
