/** How the settings of a layer were found: so that they can be found again, here and on other photographs. */
import { Type, type Static } from '@sinclair/typebox';
import { labSchema, TOLERANCE, type Reading } from './reading.ts';

const strict = { additionalProperties: false };
const id = Type.String({ minLength: 1, maxLength: 40, pattern: '^[A-Za-z0-9_-]+$' });

/**
 * What one reading is to become: a colour, what another reading is (which then stays as it is; with its own light kept, in hue and chroma
 * only), grey as light as it is. Held: what it is.
 */
export type Aim =
  | { kind: 'colour'; lab: { l: number; a: number; b: number } }
  | { kind: 'reading'; reading: string; keepsLight?: true }
  | { kind: 'neutral' | 'hold' };

const aim = Type.Unsafe<Aim>({
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [
    Type.Object({ kind: Type.Literal('colour'), lab: labSchema }, strict),
    Type.Object({ kind: Type.Literal('reading'), reading: id, keepsLight: Type.Optional(Type.Literal(true)) }, strict),
    Type.Object({ kind: Type.Literal('neutral') }, strict),
    Type.Object({ kind: Type.Literal('hold') }, strict),
  ],
});

const solved = Type.Object(
  {
    kind: Type.Literal('solver'),
    /** Which numbers of the layer are found: those of its settings, or its opacity alone. */
    turned: Type.Union([Type.Literal('settings'), Type.Literal('opacity')]),
    readings: Type.Array(Type.Object({ id, aim }, strict), { minItems: 1, maxItems: 100 }),
    /** Share of the picture, 0..1, that it may newly clip; left out: as much as it takes. */
    clips: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
    /** CIEDE2000 by which the farthest of them missed what it was to become; left out: not known. */
    off: Type.Optional(Type.Number({ minimum: 0, maximum: 1000 })),
  },
  strict,
);
/** Solved for readings, by their ids, and what each is to become. */
export type FoundBySolver = Static<typeof solved>;
export type Turned = FoundBySolver['turned'];

const measured = Type.Object({ kind: Type.Literal('measurement'), measurement: id }, strict);
/** Measured on what the layer's mask lets in of the picture below it. */
export type FoundByMeasurement = Static<typeof measured>;

export type FoundBy = FoundBySolver | FoundByMeasurement;
export const foundBySchema = Type.Unsafe<FoundBy>({
  type: 'object',
  required: ['kind'],
  discriminator: { propertyName: 'kind' },
  oneOf: [solved, measured],
});

/** The readings that settings were solved for, and those that they were to become. */
export const readingsOf = (foundBy: FoundBy): string[] =>
  foundBy.kind === 'solver' ? foundBy.readings.flatMap((one) => (one.aim.kind === 'reading' ? [one.id, one.aim.reading] : [one.id])) : [];

/** Whether all that settings were solved for came within its tolerance then; settings that were found otherwise have nothing to pass. */
export function hasPassed(foundBy: FoundBy | undefined, readings: readonly Reading[]): boolean {
  if (foundBy?.kind !== 'solver' || foundBy.off === undefined) return false;
  const moved = foundBy.readings.filter(({ aim: { kind } }) => kind !== 'hold');
  return foundBy.off <= Math.min(...moved.map(({ id: of }) => readings.find((one) => one.id === of)?.tolerance ?? TOLERANCE));
}
