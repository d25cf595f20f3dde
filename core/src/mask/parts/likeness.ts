import { Type, type Static } from '@sinclair/typebox';
import type { ColourSpace } from '../../base/space.ts';
import { colourSchema, type Colour } from '../../colour/colour.ts';
import { labOfColour, nearer, nearestDecides } from '../likeness.ts';
import { RESULT_CONTROL, resultNeeds } from '../ofResult.ts';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';

/** So many colours a part holds. */
const MOST = 40;

const schema = partSchema('likeness', {
  /** Colours that the part catches, and colours that it leaves to others. */
  colours: Type.Array(Type.Object({ colour: colourSchema, away: Type.Boolean() }, { additionalProperties: false }), { maxItems: MOST }),
  /** The region whose colours they are; left out: they were taken one by one. */
  sampled: Type.Optional(Type.String({ minLength: 1, maxLength: 40 })),
  /** Distance up to which a pixel is caught fully, in deltaEOK2 times 100. */
  tolerance: Type.Number({ minimum: 0, maximum: 60 }),
  /** Further distance over which the cover falls to nothing. */
  softness: Type.Number({ minimum: 0.1, maximum: 60 }),
  /** How much a difference in lightness counts, in percent. */
  lightness: Type.Number({ minimum: 0, maximum: 100 }),
  /** Whether it looks at the picture below the layer, as it is so far, instead of the photograph. */
  result: Type.Boolean(),
});
export type LikenessPart = Static<typeof schema>;

/** Colours nearer than this to each other count as one. */
const SAME = 1.5;

type Caught = LikenessPart['colours'][number];

/** Colours of which the two of one kind that are nearest to each other are their mean. */
function withOneLess(space: ColourSpace, colours: readonly Caught[]): Caught[] {
  const labs = colours.map(({ colour }) => labOfColour(space, colour));
  let [nearest, one, other] = [Infinity, 0, 1];
  for (let i = 0; i < colours.length; i++)
    for (let j = i + 1; j < colours.length; j++) {
      if (colours[i]!.away !== colours[j]!.away) continue;
      const distance = Math.hypot(...labs[i]!.map((v, c) => v - labs[j]![c]!));
      if (distance < nearest) [nearest, one, other] = [distance, i, j];
    }
  const colour = colours[one]!.colour.map((v, c) => (v + colours[other]!.colour[c]!) / 2) as Colour;
  return colours.flatMap((caught, i) => (i === other ? [] : i === one ? [{ ...caught, colour }] : [caught]));
}

export const likeness: MaskPartKind<LikenessPart> = {
  kind: 'likeness',
  travels: 'as it is',
  tool: 'catch',
  sampled: 'sampled',
  name: 'Likeness',
  schema,
  controls: [
    { key: 'tolerance', label: 'Tolerance', step: 0.5, unit: 'ΔE', usual: [0, 30] },
    { key: 'softness', label: 'Softness', step: 0.5, unit: 'ΔE', usual: [0.1, 30] },
    { key: 'lightness', label: 'By lightness', step: 5, unit: '%' },
    RESULT_CONTROL,
  ],
  create: (id, combine) => ({ ...newPart('likeness', id, combine), result: false, colours: [], tolerance: 5, softness: 6, lightness: 40 }),

  needs: resultNeeds,
  cover(part, view, out) {
    const lab = view.oklab();
    const weight = part.lightness / 100;
    const near = new Float32Array(out.length).fill(Infinity);
    const away = part.colours.some((one) => one.away) ? new Float32Array(out.length).fill(Infinity) : null;
    for (const one of part.colours) nearer(view.space, lab, one.colour, weight, one.away ? away! : near);
    for (let i = 0; i < out.length; i++) out[i] = nearestDecides(near[i]!, away ? away[i]! : Infinity, part.tolerance, part.softness);
  },

  changedArea: () => null,
  take(part, { space, colour }, leaveOut) {
    const [l, a, b] = labOfColour(space, colour);
    delete part.sampled;
    // A colour that was wanted otherwise before is wanted so now.
    part.colours = part.colours.filter((one) => {
      const [x, y, z] = labOfColour(space, one.colour);
      return Math.sqrt((l - x) ** 2 + (a - y) ** 2 + (b - z) ** 2) > SAME;
    });
    // None is dropped: where there is no room for one more, the two that are nearest to each other become one.
    if (part.colours.length === MOST) part.colours = withOneLess(space, part.colours);
    part.colours.push({ colour: [...colour], away: leaveOut });
  },
  takeAll(part, colours, region) {
    part.colours = colours.map((colour) => ({ colour: [...colour], away: false }));
    part.sampled = region;
  },
  narrow(part) {
    part.tolerance /= 2;
    part.softness = Math.max(0.1, part.softness / 2);
  },
  summary: ({ colours }) => `Likeness, ${colours.length} ${colours.length === 1 ? 'colour' : 'colours'}`,
};
