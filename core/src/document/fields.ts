/**
 * What an edit holds beside its layers. Merging, taking over another edit, bringing it to another photograph, and the schema go by this
 * table: a new field is a line in each of the two.
 */
import { Type, type TSchema } from '@sinclair/typebox';
import type { Fit } from '../base/fit.ts';

export interface DocumentFields {
  /** How much of the whole stack is seen, 0..1; left out: all of it. */
  strength?: number;
}

interface Field<V> {
  /** What it is, in a question about two versions. */
  readonly words: string;
  readonly schema: TSchema;
  /** Changes a value in place so that it suits a photograph of another size; left out where it has no place. */
  readonly fit?: (value: V, fit: Fit) => void;
}

export const documentFields: { readonly [K in keyof DocumentFields]-?: Field<NonNullable<DocumentFields[K]>> } = {
  strength: { words: 'the strength of all layers', schema: Type.Number({ minimum: 0, maximum: 1 }) },
};

export const fieldKeys = Object.keys(documentFields) as (keyof DocumentFields)[];
