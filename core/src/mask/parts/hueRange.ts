import type { ColourSpace } from '../../base/space.ts';
import { Type, type Static } from '@sinclair/typebox';
import { toneShare } from '../../blend/toneLimits.ts';
import { HUE_INDEX_STEPS, hueIndex, hueOfIndex } from '../../colour/hueIndex.ts';
import type { Colour } from '../../colour/colour.ts';
import { hueMembership, wrapHue, type HueSpan } from '../../colour/hueSpan.ts';
import { rgbToOklab, rgbToOklch } from '../../colour/oklab.ts';
import { acceleration } from '../../base/acceleration.ts';
import type { Planes } from '../../base/planes.ts';
import { RESULT_CONTROL, resultNeeds, resultSchema } from '../ofResult.ts';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';

const degrees = Type.Number({ minimum: 0, maximum: 360 });
const hue = Type.Number({ minimum: 0, exclusiveMaximum: 360 });
const rangeSchema = Type.Object({ from: hue, fadeIn: degrees, span: degrees, fadeOut: degrees }, { additionalProperties: false });

/** A soft range in percent: nothing below the first, all from the second to the third, nothing above the fourth. */
const softRange = Type.Optional(Type.Array(Type.Number({ minimum: 0, maximum: 100 }), { minItems: 4, maxItems: 4 }));

const schema = partSchema('hueRange', {
  /** OKLCh hue in degrees where the range begins to catch. */
  from: hue,
  /** Degrees over which it rises to full, stays full, and falls again. */
  fadeIn: degrees,
  span: degrees,
  fadeOut: degrees,
  /** Further ranges beside the first. */
  also: Type.Optional(Type.Array(rangeSchema, { maxItems: 12 })),
  /** OKLCh chroma from which a pixel counts fully; it counts not at all below half of that, for the hue of a grey is chance. */
  greys: Type.Number({ minimum: 0, maximum: 0.4 }),
  /** Limits beside the hue: OKLab lightness in percent, and chroma in percent of 0.4. */
  lightness: softRange,
  chroma: softRange,
  result: resultSchema,
});
export type HueRangePart = Static<typeof schema>;

/** The ranges of a part, the first one first. */
export const hueSpans = (part: HueRangePart): HueSpan[] => {
  const { from, fadeIn, span, fadeOut, also = [] } = part;
  return [{ from, fadeIn, span, fadeOut }, ...also];
};

const tables = new WeakMap<HueRangePart, Float32Array>();

/** The membership over the hue index, with one entry past the end; made once for each state of a part. */
function membershipTable(part: HueRangePart): Float32Array {
  let table = tables.get(part);
  if (!table) {
    const spans = hueSpans(part);
    table = Float32Array.from({ length: HUE_INDEX_STEPS + 2 }, (_, i) => {
      const angle = hueOfIndex(Math.min(i, HUE_INDEX_STEPS) % HUE_INDEX_STEPS);
      return Math.max(...spans.map((one) => hueMembership(one, angle)));
    });
    tables.set(part, table);
  }
  return table;
}

/**
 * The definition of {@link Acceleration.coverHues}.
 * @param table membership over the hue index
 * @param low chroma at which a pixel begins to count
 * @param rise 1 / the further chroma until it counts fully; 0: all count
 */
export function coverHues(
  space: ColourSpace,
  { r, g, b }: Planes,
  n: number,
  table: Float32Array,
  low: number,
  rise: number,
  out: Float32Array,
): void {
  const lab = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    rgbToOklab(space, r[i]!, g[i]!, b[i]!, lab);
    const a = lab[1]!;
    const d = lab[2]!;
    const index = hueIndex(a, d);
    const k = index | 0;
    let cover = table[k]! + (table[k + 1]! - table[k]!) * (index - k);
    if (cover > 0 && rise > 0) {
      let t = (Math.sqrt(a * a + d * d) - low) * rise;
      t = t < 0 ? 0 : t > 1 ? 1 : t;
      cover *= t * t * (3 - 2 * t);
    }
    out[i] = cover;
  }
}

const shareOf = (range: readonly number[], percent: number): number =>
  toneShare({ low: [range[0]!, range[1]!], high: [range[2]!, range[3]!], smooth: true }, percent);

/** A hue in OKLCh degrees; null for a colour so grey that its hue is chance. */
function hueOf(space: ColourSpace, [r, g, b]: Colour): number | null {
  const { c, h } = rgbToOklch(space, r, g, b);
  return c < 0.01 ? null : h;
}

/** So near to an end that is hard a hue is not caught fully: membership is known in steps. */
const EDGE = 0.5;

/** A range that just holds a hue as well: the end that is nearer to it moves. */
function widened(range: HueSpan, hue: number): HueSpan {
  if (range.span >= 360) return range;
  const at = wrapHue(hue - range.from - range.fadeIn);
  const isInside = at <= range.span;
  // How far beyond either end it is; negative within.
  const [before, after] = [isInside ? -at : 360 - at, at - range.span];
  if (isInside && before <= -EDGE && after <= -EDGE) return range;
  const atStart = isInside ? before > after : before < after;
  const grown = (atStart ? before : after) + 2;
  const span = Math.min(360, range.span + grown);
  return atStart ? { ...range, from: wrapHue(range.from - grown), span } : { ...range, span };
}

/** A range without a hue: the end that is nearer to it moves past it. */
function narrowed(range: HueSpan, hue: number): HueSpan {
  if (hueMembership(range, hue) === 0) return range;
  const begin = wrapHue(hue - range.from);
  const whole = range.fadeIn + range.span + range.fadeOut;
  const fromStart = begin <= whole / 2;
  const cut = Math.min(whole, (fromStart ? begin : whole - begin) + 2);
  // All the way round: everything but the hue.
  if (whole >= 360) return { from: wrapHue(hue + 2), fadeIn: 0, span: 356, fadeOut: 0 };
  // What is left of the full part; its fades stay as wide as there is room for.
  const left = Math.max(0, whole - cut);
  const fades = Math.min(1, left / Math.max(1e-9, range.fadeIn + range.fadeOut));
  const [fadeIn, fadeOut] = [range.fadeIn * fades, range.fadeOut * fades];
  return { from: fromStart ? wrapHue(range.from + cut) : range.from, fadeIn, span: left - fadeIn - fadeOut, fadeOut };
}

/** How far a hue is from the full part of a range, in degrees. */
function gap(range: HueSpan, hue: number): number {
  const first = wrapHue(range.from + range.fadeIn);
  return wrapHue(hue - first) <= range.span ? 0 : Math.min(wrapHue(first - hue), wrapHue(hue - first - range.span));
}

export const hueRange: MaskPartKind<HueRangePart> = {
  kind: 'hueRange',
  travels: 'as it is',
  name: 'Hue range',
  schema,
  controls: [{ key: 'greys', label: 'Spare greys', step: 0.01, unit: '' }, RESULT_CONTROL],
  create: (id, combine) => ({
    ...newPart('hueRange', id, combine),
    from: 0,
    fadeIn: 15,
    span: 40,
    fadeOut: 15,
    greys: 0.03,
  }),

  cover(part, view, out) {
    const low = part.greys / 2;
    const rise = part.greys > 0 ? 1 / low : 0;
    (acceleration?.coverHues ?? coverHues)(view.space, view.photograph(), out.length, membershipTable(part), low, rise, out);
    const { lightness, chroma } = part;
    if (!lightness && !chroma) return;
    const { l, a, b } = view.oklab();
    for (let i = 0; i < out.length; i++) {
      if (out[i] === 0) continue;
      if (lightness) out[i] = out[i]! * shareOf(lightness, l[i]!);
      if (chroma) out[i] = out[i]! * shareOf(chroma, Math.sqrt(a[i]! * a[i]! + b[i]! * b[i]!) * 1.25);
    }
  },

  needs: resultNeeds,
  changedArea: () => null,
  take(part, { space, colour }, leaveOut) {
    const hue = hueOf(space, colour);
    if (hue === null) return;
    const ranges = hueSpans(part);
    const nearest = ranges.reduce((best, range, i) => (gap(range, hue) < gap(ranges[best]!, hue) ? i : best), 0);
    const [first, ...also] = ranges.map((range, i) => (leaveOut ? narrowed(range, hue) : i === nearest ? widened(range, hue) : range));
    Object.assign(part, first);
    if (part.also) part.also = also;
  },
  narrow(part) {
    const half = ({ from, fadeIn, span, fadeOut }: HueSpan): HueSpan => ({
      from: wrapHue(from + fadeIn / 2 + span / 4),
      fadeIn: fadeIn / 2,
      span: span / 2,
      fadeOut: fadeOut / 2,
    });
    const [first, ...also] = hueSpans(part).map(half);
    Object.assign(part, first);
    if (part.also) part.also = also;
  },
  summary: (part) => `Hue ${Math.round(part.from)}–${Math.round(wrapHue(part.from + part.fadeIn + part.span + part.fadeOut))}°`,
};
