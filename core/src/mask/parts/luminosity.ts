import { clamp, toTenth } from '../../base/number.ts';
import { channelPlane, channelSchema, channelWords } from '../../colour/channels.ts';
import type { Colour } from '../../colour/colour.ts';
import { lumOf } from '../../colour/luminosity.ts';
import { Type, type Static } from '@sinclair/typebox';
import { toneShare } from '../../blend/toneLimits.ts';
import { SIX_IDS } from '../../colour/families.ts';
import { SOURCE } from '../../base/need.ts';
import type { Planes } from '../../base/planes.ts';
import type { ColourSpace } from '../../base/space.ts';
import { RESULT_CONTROL, resultNeeds, resultSchema } from '../ofResult.ts';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';

const percent = Type.Number({ minimum: 0, maximum: 100 });
const weight = Type.Number({ minimum: -100, maximum: 100 });

const schema = partSchema('luminosity', {
  tones: Type.Union([Type.Literal('lights'), Type.Literal('midtones'), Type.Literal('darks'), Type.Literal('range')]),
  /** How narrow lights, midtones or darks are, 1 to 6 in half steps. */
  grade: Type.Number({ minimum: 1, maximum: 6 }),
  /** The free range in percent: nothing below the first, all from the second to the third, nothing above the fourth. */
  range: Type.Array(percent, { minItems: 4, maxItems: 4 }),
  /** How much lighter (+) or darker (-) each hue family counts than it is, in percent of its colourfulness. */
  red: weight,
  yellow: weight,
  green: weight,
  cyan: weight,
  blue: weight,
  magenta: weight,
  /** A channel instead of the luminosity; then hues have no weights. */
  channel: Type.Optional(channelSchema),
  result: resultSchema,
  /** Whether it looks at what the layer itself shows, such as another exposure. */
  own: Type.Optional(Type.Boolean()),
});
export type LuminosityPart = Static<typeof schema>;

/**
 * The cover at a luminosity, both 0..1: lights are L^g, darks (1 - L)^g, midtones (4 L (1 - L))^g for grade g, so that every grade
 * is the one before multiplied once more with the first. Grades by repeated intersection: common practice, no source.
 */
export function luminosityCover(part: Pick<LuminosityPart, 'tones' | 'grade' | 'range'>, l: number): number {
  if (part.tones === 'range') {
    const [a, b, c, d] = part.range as [number, number, number, number];
    return toneShare({ low: [a, b], high: [c, d], smooth: true }, l * 100);
  }
  const base = part.tones === 'lights' ? l : part.tones === 'darks' ? 1 - l : 4 * l * (1 - l);
  return Math.pow(base, part.grade);
}

const STEPS = 1024;
const tables = new WeakMap<LuminosityPart, Float32Array>();
function tableOf(part: LuminosityPart): Float32Array {
  let table = tables.get(part);
  if (!table)
    tables.set(part, (table = Float32Array.from({ length: STEPS + 2 }, (_, i) => luminosityCover(part, Math.min(i, STEPS) / STEPS))));
  return table;
}

/**
 * Luminosity (Lum of W3C Compositing and Blending Level 1) with each hue family lighter or darker. A colour is grey plus some of
 * one secondary plus some of one primary: the middle channel less the least, and the greatest less the middle.
 */
function weighted(part: LuminosityPart, { r, g, b }: Planes, out: Float32Array): void {
  const [red, yellow, green, cyan, blue, magenta] = SIX_IDS.map((family) => part[family] / 100) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const plain = SIX_IDS.every((family) => part[family] === 0);
  for (let i = 0; i < out.length; i++) {
    const [x, y, z] = [r[i]!, g[i]!, b[i]!];
    let l = lumOf(x, y, z);
    if (!plain) {
      const least = x < y ? (x < z ? x : z) : y < z ? y : z;
      const most = x > y ? (x > z ? x : z) : y > z ? y : z;
      const middle = x + y + z - least - most;
      l += (most === x ? red : most === y ? green : blue) * (most - middle);
      l += (least === z ? yellow : least === x ? cyan : magenta) * (middle - least);
    }
    out[i] = l;
  }
}

/** What of a colour the part looks at, 0..1. */
function toneAt({ channel }: LuminosityPart, space: ColourSpace, [r, g, b]: Colour): number {
  if (!channel) return lumOf(r, g, b);
  const out = new Float32Array(1);
  channelPlane(space, channel, { r: Float32Array.of(r), g: Float32Array.of(g), b: Float32Array.of(b) }, 1, out);
  return out[0]!;
}

export const luminosity: MaskPartKind<LuminosityPart> = {
  kind: 'luminosity',
  travels: 'as it is',
  name: 'Luminosity',
  schema,
  controls: [
    {
      key: 'tones',
      label: 'Tones',
      options: [
        ['lights', 'Lights'],
        ['midtones', 'Mid'],
        ['darks', 'Darks'],
        ['range', 'Range'],
      ],
    },
    { key: 'grade', label: 'Grade', step: 0.5, unit: '', when: ({ tones }) => tones !== 'range' },
    { ...RESULT_CONTROL, when: ({ own }) => own !== true },
  ],
  create: (id, combine) => ({
    ...newPart('luminosity', id, combine),
    tones: 'lights',
    grade: 1,
    range: [50, 75, 100, 100],
    red: 0,
    yellow: 0,
    green: 0,
    cyan: 0,
    blue: 0,
    magenta: 0,
  }),

  cover(part, view, out) {
    const pixels = part.own && view.own ? view.own.pixels(view.region) : view.photograph();
    if (part.channel) channelPlane(view.space, part.channel, pixels, out.length, out);
    else weighted(part, pixels, out);
    const table = tableOf(part);
    for (let i = 0; i < out.length; i++) {
      const l = out[i]! * STEPS;
      const x = l > 0 ? (l < STEPS ? l : STEPS) : 0;
      const k = x | 0;
      out[i] = table[k]! + (table[k + 1]! - table[k]!) * (x - k);
    }
  },

  needs: (part) => (part.own ? [SOURCE] : resultNeeds(part)),
  changedArea: () => null,
  take(part, { space, colour }, leaveOut) {
    const tone = toneAt(part, space, colour) * 100;
    const [a, b1, c, d] = part.tones === 'range' ? part.range : [tone, tone, tone, tone];
    const hold = (v: number): number => toTenth(clamp(v, 0, 100));
    part.tones = 'range';
    if (!leaveOut) {
      const [low, high] = [Math.min(b1!, tone - 3), Math.max(c!, tone + 3)];
      part.range = [Math.min(a!, low - 8), low, high, Math.max(d!, high + 8)].map(hold);
    } else if (tone > a! && tone < d!) {
      // The end that is nearer to the tone moves away from it.
      part.range =
        tone - a! < d! - tone
          ? [tone, Math.max(b1!, tone + 8), Math.max(c!, tone + 8), Math.max(d!, tone + 8)].map(hold)
          : [Math.min(a!, tone - 8), Math.min(b1!, tone - 8), Math.min(c!, tone - 8), tone].map(hold);
    }
  },
  stepGrade(part, by) {
    if (part.tones !== 'range') part.grade = clamp(part.grade + by * 0.5, 1, 6);
  },
  narrow(part) {
    const [a, b, c, d] = part.range as [number, number, number, number];
    if (part.tones !== 'range') part.grade = clamp(part.grade + 2, 1, 6);
    else
      part.range = [a + (b - a) / 2 + (c - b) / 4, b + (c - b) / 4, c - (c - b) / 4, d - (d - c) / 2 - (c - b) / 4]
        .map(toTenth)
        .sort((x, y) => x - y);
  },
  summary({ tones, grade, range, channel }) {
    const which = { lights: 'Lights', midtones: 'Midtones', darks: 'Darks', range: 'Tones' }[tones];
    const words = `${which} ${tones === 'range' ? range.map(Math.round).join('–') : grade}`;
    return channel ? `${words} of ${channelWords(channel)}` : words;
  },
};
