import { clamp, toTenth } from '../../base/number.ts';
import { lumOf } from '../../colour/luminosity.ts';
import { Type, type Static } from '@sinclair/typebox';
import { toneShare } from '../../blend/toneLimits.ts';
import { SIX_IDS } from '../../colour/families.ts';
import type { Planes } from '../../base/planes.ts';
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
  result: resultSchema,
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
    RESULT_CONTROL,
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
    weighted(part, view.photograph(), out);
    const table = tableOf(part);
    for (let i = 0; i < out.length; i++) {
      const l = out[i]! * STEPS;
      const x = l > 0 ? (l < STEPS ? l : STEPS) : 0;
      const k = x | 0;
      out[i] = table[k]! + (table[k + 1]! - table[k]!) * (x - k);
    }
  },

  needs: resultNeeds,
  changedArea: () => null,
  take(part, { colour: [r, g, b] }, leaveOut) {
    const tone = lumOf(r, g, b) * 100;
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
  summary: ({ tones, grade, range }) =>
    tones === 'range'
      ? `Tones ${range.map(Math.round).join('–')}`
      : `${{ lights: 'Lights', midtones: 'Midtones', darks: 'Darks' }[tones]} ${grade}`,
};
