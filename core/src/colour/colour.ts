import { Type, type TSchema } from '@sinclair/typebox';

/** A colour in documents: encoded in the document's working space, 0..1 each. */
export type Colour = [number, number, number];

/** By which a schema is known to be that of a colour, also when it was copied into another. */
const TITLE = 'colour in the working space';

export const colourSchema = Type.Unsafe<Colour>(
  Type.Array(Type.Number({ minimum: 0, maximum: 1 }), { minItems: 3, maxItems: 3, title: TITLE }) as unknown as TSchema,
);

export const isColourSchema = ({ title }: TSchema): boolean => title === TITLE;
