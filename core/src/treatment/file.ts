/** A treatment as a file. */
import { Type, type Static } from '@sinclair/typebox';
import type { Treatment } from './treatment.ts';

const strict = { additionalProperties: false };

export const treatmentFileSchema = Type.Object(
  {
    format: Type.Literal('umbo-treatment'),
    version: Type.Literal(1),
    name: Type.String({ minLength: 1, maxLength: 120 }),
    note: Type.String({ maxLength: 2000 }),
    solve: Type.Array(Type.String({ minLength: 1, maxLength: 40 }), { maxItems: 500 }),
    /** An edit, by a schema of its own. */
    document: Type.Unknown(),
  },
  strict,
);
export type TreatmentFile = Static<typeof treatmentFileSchema>;

export const treatmentFile = ({ name, note, solve, document }: Treatment): TreatmentFile => ({
  format: 'umbo-treatment',
  version: 1,
  name,
  note,
  solve: [...solve],
  document,
});
