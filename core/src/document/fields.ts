/**
 * What an edit holds beside its layers. Merging, taking over another edit, and the schema go by this table: a new field is a line in each
 * of the two.
 */
import { Type, type TSchema } from '@sinclair/typebox';

export interface DocumentFields {
  /** How much of the whole stack is seen, 0..1; left out: all of it. */
  strength?: number;
}

interface Field {
  /** What it is, in a question about two versions. */
  readonly words: string;
  readonly schema: TSchema;
}

export const documentFields: { readonly [K in keyof DocumentFields]-?: Field } = {
  strength: { words: 'the strength of all layers', schema: Type.Number({ minimum: 0, maximum: 1 }) },
};

export const fieldKeys = Object.keys(documentFields) as (keyof DocumentFields)[];
