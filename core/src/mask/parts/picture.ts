import type { Static } from '@sinclair/typebox';
import { needOf, photographName } from '../../base/need.ts';
import { coverByPicture } from '../byPicture.ts';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';

const schema = partSchema('picture', {
  /** A mask that was imported into the shoot, or another photograph of it. */
  photograph: photographName,
});
export type PicturePart = Static<typeof schema>;

/** A picture's luminosity as a mask, stretched over the photograph: white is full. */
export const picture: MaskPartKind<PicturePart> = {
  kind: 'picture',
  travels: 'to be checked',
  drawn: true,
  name: 'Imported mask',
  schema,
  controls: [],
  create: (id, combine) => ({ ...newPart('picture', id, combine), photograph: '' }),
  needs: ({ photograph }) => needOf(photograph),
  cover(part, view, out) {
    coverByPicture(part.photograph, view, out);
  },
  changedArea: () => null,
  summary: () => 'Imported mask',
};
