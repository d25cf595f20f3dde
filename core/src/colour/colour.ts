import { Type, type TSchema } from '@sinclair/typebox';

/** A colour in documents: encoded sRGB, 0..1 each. */
export type Colour = [number, number, number];

export const colourSchema = Type.Unsafe<Colour>(
  Type.Array(Type.Number({ minimum: 0, maximum: 1 }), { minItems: 3, maxItems: 3 }) as unknown as TSchema,
);
