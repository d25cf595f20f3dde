/** Places on the photograph whose colours are read: pinned, lettered, and kept with the edit. */
import { Type, type Static } from '@sinclair/typebox';
import type { Fit } from '../base/fit.ts';
import { fitMask } from '../mask/fitMask.ts';
import type { Mask } from '../mask/registry.ts';

const strict = { additionalProperties: false };
const id = Type.String({ minLength: 1, maxLength: 40, pattern: '^[A-Za-z0-9_-]+$' });
const position = Type.Number({ minimum: -1e6, maximum: 1e6 });
const abscissa = Type.Number({ minimum: -300, maximum: 300 });

/** Pixels along the side of a spot. */
export const SPOT_SIDES = [1, 5, 31] as const;

const spot = Type.Object({ x: position, y: position, side: Type.Union(SPOT_SIDES.map((side) => Type.Literal(side))) }, strict);
/** A square about a place, in pixels of the full photograph. */
export type Spot = Static<typeof spot>;

/** A colour in CIELAB D50. */
export const labSchema = Type.Object({ l: Type.Number({ minimum: 0, maximum: 100 }), a: abscissa, b: abscissa }, strict);

/** What a reading is to become. */
const target = Type.Unsafe<ReadingTarget>({
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [
    Type.Object({ kind: Type.Literal('reading'), reading: id, keepsLight: Type.Optional(Type.Literal(true)) }, strict),
    Type.Object(
      {
        kind: Type.Literal('colour'),
        lab: labSchema,
        name: Type.Optional(Type.String({ minLength: 1, maxLength: 120 })),
      },
      strict,
    ),
    Type.Object({ kind: Type.Literal('neutral') }, strict),
  ],
});
export type ReadingTarget =
  /** What another reading is; its light left out, where that stays: only hue and chroma. */
  | { kind: 'reading'; reading: string; keepsLight?: true }
  /** A colour, in CIELAB D50. */
  | { kind: 'colour'; lab: { l: number; a: number; b: number }; name?: string }
  /** Grey, as light as it is. */
  | { kind: 'neutral' };

/** A reading is of a spot, or of the area of a mask: one of both is there. */
export interface Reading {
  id: string;
  letter: string;
  name: string;
  spot?: Spot;
  where?: Mask;
  target?: ReadingTarget;
  /** CIEDE2000 up to which the target counts as reached; left out: {@link TOLERANCE}. */
  tolerance?: number;
  /** It is to stay as it is while others are brought to their targets. */
  hold?: true;
}

/** A difference that a practised eye sees side by side; common practice, no source. */
export const TOLERANCE = 2;
export const READINGS = 100;

export const readingSchema = Type.Object(
  {
    id,
    letter: Type.String({ pattern: '^[A-Z]{1,2}$' }),
    name: Type.String({ minLength: 1, maxLength: 120 }),
    spot: Type.Optional(spot),
    where: Type.Optional(Type.Unsafe<Mask>({ $ref: '#/$defs/mask' })),
    target: Type.Optional(target),
    tolerance: Type.Optional(Type.Number({ minimum: 0.1, maximum: 50 })),
    hold: Type.Optional(Type.Literal(true)),
  },
  strict,
);

export function fitReadings(readings: Reading[], fit: Fit): void {
  for (const { spot, where } of readings) {
    if (spot) Object.assign(spot, { x: fit.x(spot.x), y: fit.y(spot.y) });
    if (where) fitMask(where, fit);
  }
}

/** Letters as columns of a table have them: A to Z, AA to ZZ. */
function letterAt(i: number): string {
  const last = String.fromCharCode(65 + (i % 26));
  return i < 26 ? last : String.fromCharCode(64 + Math.floor(i / 26)) + last;
}

/**
 * The first letter that no reading has.
 * @example
 * freeLetter([{ letter: 'A' }, { letter: 'C' }]); // → 'B'
 */
export function freeLetter(readings: readonly Pick<Reading, 'letter'>[]): string {
  const taken = new Set(readings.map(({ letter }) => letter));
  for (let i = 0; ; i++) if (!taken.has(letterAt(i))) return letterAt(i);
}

/** What a reading is called before it has a name. */
export const plainName = (letter: string): string => `Reading ${letter}`;

/** Gives another letter to those that have one that an earlier one has, as when two were pinned at the same time. */
export function lettersApart(readings: Reading[]): void {
  for (const [i, reading] of readings.entries()) {
    if (!readings.slice(0, i).some(({ letter }) => letter === reading.letter)) continue;
    const letter = freeLetter(readings);
    if (reading.name === plainName(reading.letter)) reading.name = plainName(letter);
    reading.letter = letter;
  }
}

/** The reading that is another's target, if it is there. */
export const targetReading = (readings: readonly Reading[], { target }: Reading): Reading | undefined =>
  target?.kind === 'reading' ? readings.find((one) => one.id === target.reading) : undefined;
