import { FAMILY_HUES } from '../colour/families.ts';
import { wrapHue, type HueSpan } from '../colour/hueSpan.ts';
import { CENSUS_BINS, type HueModel } from './hueCensus.ts';

/** A hump of a census: hues that lie together, with fewer on both sides. */
export interface Hump extends HueSpan {
  /** Its hue word: red, orange, yellow, green, cyan, blue, violet or magenta; with a number where two humps have the same. */
  readonly name: string;
  /** The hue of its middle, in degrees. */
  readonly hue: number;
  /** Its share of all colour, 0..1. */
  readonly share: number;
}

const STEP = 360 / CENSUS_BINS;
/** Standard deviation of the smoothing, in degrees: what differs less is one hump. */
const SMOOTH = 7;
/** Between two humps the census falls below this share of the lower one. */
const VALLEY = 0.7;
/** Smaller humps are not told. */
const LEAST = 0.03;
/** Shares of a hump's colour that lie before and behind what counts fully. */
const TAIL = 0.15;
/** How far a hump fades at most where no other one is near, in degrees. */
const FADE = 30;

const at = (bins: ArrayLike<number>, i: number): number => bins[((i % CENSUS_BINS) + CENSUS_BINS) % CENSUS_BINS]!;

function smoothed(census: Float32Array): Float64Array {
  const reach = Math.ceil((3 * SMOOTH) / STEP);
  const weights = Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-((((k - reach) * STEP) / SMOOTH) ** 2) / 2));
  const sum = weights.reduce((all, w) => all + w, 0);
  return Float64Array.from(census, (_, i) => weights.reduce((all, w, k) => all + w * at(census, i + k - reach), 0) / sum);
}

/** The bins at which humps end, in order: the lowest between two tops that are apart; one alone ends opposite its top. */
function valleysOf(bins: Float64Array): number[] {
  const tops = Array.from(bins.keys()).filter((i) => bins[i]! > 0 && bins[i]! > at(bins, i - 1) && bins[i]! >= at(bins, i + 1));
  const lowest = (from: number, to: number): number => {
    let low = from;
    for (let i = from; i <= to; i++) if (at(bins, i) < at(bins, low)) low = i;
    return low;
  };
  // The shallowest valley goes first, until all that are left are deep.
  for (;;) {
    const valleys = tops.map((top, k) => lowest(top, k + 1 < tops.length ? tops[k + 1]! : tops[0]! + CENSUS_BINS));
    if (tops.length < 2) return tops.length === 0 ? [] : [tops[0]! + CENSUS_BINS / 2];
    const depth = (k: number): number => at(bins, valleys[k]!) / Math.min(bins[tops[k]!]!, bins[tops[(k + 1) % tops.length]!]!);
    const shallow = valleys.map((_, k) => k).reduce((most, k) => (depth(k) > depth(most) ? k : most));
    if (depth(shallow) < VALLEY) return valleys;
    const next = (shallow + 1) % tops.length;
    tops.splice(bins[tops[shallow]!]! < bins[tops[next]!]! ? shallow : next, 1);
  }
}

/**
 * The hues that there are in a picture, as its census heaps them: the most frequent first.
 * @param census shares by hue, of {@link hueCensus}
 * @returns at most eight; none where there is no colour
 * @example
 * const census = new Float32Array(180);
 * census[15] = 0.75;
 * census[110] = 0.25;
 * humps(census).map(({ name, share }) => `${name} ${share}`).join(', '); // → 'red 0.75, cyan 0.25'
 */
export function humps(census: Float32Array, model: HueModel = 'oklch'): Hump[] {
  const valleys = valleysOf(smoothed(census));
  const found = valleys.map((end, k) => {
    const begin = k > 0 ? valleys[k - 1]! : valleys.at(-1)! - CENSUS_BINS;
    const share = sumOf(census, begin, end);
    const place = (part: number): number => {
      let sum = 0;
      for (let i = begin; i < end; i++) if ((sum += at(census, i)) >= part * share) return i;
      return end;
    };
    const [first, middle, last] = [place(TAIL), place(0.5), place(1 - TAIL)];
    const [fadeIn, fadeOut] = [Math.min(FADE, (first - begin) * STEP), Math.min(FADE, (end - last) * STEP)];
    return {
      hue: wrapHue((middle + 0.5) * STEP),
      share,
      from: wrapHue(first * STEP - fadeIn),
      fadeIn,
      span: (last - first + 1) * STEP,
      fadeOut,
    };
  });
  const told = found.filter(({ share }) => share >= LEAST).sort((a, b) => b.share - a.share);
  const words = told.map(({ hue }) => wordOf(hue, model));
  return told.slice(0, 8).map((hump, i) => {
    const before = words.slice(0, i).filter((word) => word === words[i]).length;
    return { ...hump, name: before > 0 ? `${words[i]} ${before + 1}` : words[i]! };
  });
}

function sumOf(census: Float32Array, begin: number, end: number): number {
  let sum = 0;
  for (let i = begin; i < end; i++) sum += at(census, i);
  return sum;
}

function wordOf(hue: number, model: HueModel): string {
  const away = (other: number): number => Math.abs(wrapHue(hue - other + 180) - 180);
  return Object.entries(FAMILY_HUES[model]).reduce((near, one) => (away(one[1]) < away(near[1]) ? one : near))[0];
}
