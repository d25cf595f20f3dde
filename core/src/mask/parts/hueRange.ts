import { Type, type Static } from '@sinclair/typebox';
import { HUE_INDEX_STEPS, hueIndex, hueOfIndex } from '../../colour/hueIndex.ts';
import { srgbToOklab } from '../../colour/oklab.ts';
import { acceleration } from '../../render/acceleration.ts';
import type { Planes } from '../../render/planes.ts';
import { partSchema, type MaskPartKind } from '../part.ts';

const schema = partSchema('hueRange', {
  /** OKLCh hue in degrees where the range begins to catch. */
  from: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
  /** Degrees over which it rises to full, stays full, and falls again. */
  fadeIn: Type.Number({ minimum: 0, maximum: 360 }),
  span: Type.Number({ minimum: 0, maximum: 360 }),
  fadeOut: Type.Number({ minimum: 0, maximum: 360 }),
  /** OKLCh chroma from which a pixel counts fully; it counts not at all below half of that, for the hue of a grey is chance. */
  greys: Type.Number({ minimum: 0, maximum: 0.4 }),
});
export type HueRangePart = Static<typeof schema>;

const turn = (degrees: number): number => ((degrees % 360) + 360) % 360;

/** How far a hue (degrees) is in the range, 0..1: a trapezoid on the hue circle. */
export function hueMembership(part: Pick<HueRangePart, 'from' | 'fadeIn' | 'span' | 'fadeOut'>, hue: number): number {
  const { from, fadeIn, span, fadeOut } = part;
  if (fadeIn + span + fadeOut >= 360 && span >= 360) return 1;
  const d = turn(hue - from);
  if (d < fadeIn) return d / fadeIn;
  if (d <= fadeIn + span) return 1;
  return d < fadeIn + span + fadeOut ? (fadeIn + span + fadeOut - d) / fadeOut : 0;
}

const tables = new WeakMap<HueRangePart, Float32Array>();

/** The membership over the hue index, with one entry past the end; made once for each state of a part. */
function membershipTable(part: HueRangePart): Float32Array {
  let table = tables.get(part);
  if (!table) {
    table = Float32Array.from({ length: HUE_INDEX_STEPS + 2 }, (_, i) =>
      hueMembership(part, hueOfIndex(Math.min(i, HUE_INDEX_STEPS) % HUE_INDEX_STEPS)),
    );
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
export function coverHues({ r, g, b }: Planes, n: number, table: Float32Array, low: number, rise: number, out: Float32Array): void {
  const lab = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    srgbToOklab(r[i]!, g[i]!, b[i]!, lab);
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

export const hueRange: MaskPartKind<HueRangePart> = {
  kind: 'hueRange',
  name: 'Hue range',
  schema,
  controls: [{ key: 'greys', label: 'Spare greys', step: 0.01, unit: '' }],
  create: (id, combine) => ({
    id,
    kind: 'hueRange',
    on: true,
    invert: false,
    combine,
    from: 0,
    fadeIn: 15,
    span: 40,
    fadeOut: 15,
    greys: 0.03,
  }),

  cover(part, view, out) {
    const low = part.greys / 2;
    const rise = part.greys > 0 ? 1 / low : 0;
    (acceleration?.coverHues ?? coverHues)(view.photograph(), out.length, membershipTable(part), low, rise, out);
  },

  changedArea: () => null,
  summary: (part) => `Hue ${Math.round(part.from)}–${Math.round(turn(part.from + part.fadeIn + part.span + part.fadeOut))}°`,
};
