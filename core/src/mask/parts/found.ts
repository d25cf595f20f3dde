import { Type, type Static } from '@sinclair/typebox';
import { needOf, photographName } from '../../base/need.ts';
import { coverByPicture } from '../byPicture.ts';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';

const schema = partSchema('found', {
  /** The SHA-256 of the file that what was found is kept in: an edit renders the same for ever, whatever finds better later. */
  photograph: photographName,
  /** The SHA-256 of the photograph that it was found on: carried to another one, it has to be found anew. */
  of: photographName,
  /** What found it: models and all that is made of them, by a name that changes when they do. */
  by: Type.String({ minLength: 1, maxLength: 40 }),
  /** How sure it was. */
  sure: Type.Union([Type.Literal('sure'), Type.Literal('check the edge'), Type.Literal('rough start')]),
});
export type FoundPart = Static<typeof schema>;

/** A mask that was found by itself, and is kept as it was found. */
export const found: MaskPartKind<FoundPart> = {
  kind: 'found',
  travels: 'found anew',
  comesByItself: true,
  drawn: true,
  name: 'Found',
  schema,
  controls: [],
  create: (id, combine) => ({ ...newPart('found', id, combine), photograph: '', of: '', by: 'nothing', sure: 'rough start' }),
  needs: ({ photograph }) => needOf(photograph),
  cover: ({ photograph }, view, out) => coverByPicture(photograph, view, out),
  changedArea: () => null,
  summary: ({ sure }) => (sure === 'sure' ? 'Found' : `Found, ${sure}`),
};
