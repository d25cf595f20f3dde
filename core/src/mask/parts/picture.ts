import { lumOf } from '../../colour/luminosity.ts';
import type { Static } from '@sinclair/typebox';
import { needOf, photographName } from '../../base/need.ts';
import { sampleSmooth } from '../overview.ts';
import { newPart, partSchema, type MaskPartKind } from '../part.ts';

const schema = partSchema('picture', {
  /** A mask that was imported into the shoot, or another photograph of it. */
  photograph: photographName,
});
export type PicturePart = Static<typeof schema>;

/** A picture's luminosity as a mask, stretched over the photograph: white is full. */
export const picture: MaskPartKind<PicturePart> = {
  kind: 'picture',
  drawn: true,
  name: 'Imported mask',
  schema,
  controls: [],
  create: (id, combine) => ({ ...newPart('picture', id, combine), photograph: '' }),
  needs: ({ photograph }) => needOf(photograph),
  cover(part, view, out) {
    const [need] = needOf(part.photograph);
    const found = need ? view.find(need) : null;
    if (!found) return void out.fill(0);
    const { r, g, b, area } = found.level;
    const luminosity = new Float32Array(r.length);
    // A grey stays itself to the bit.
    for (let i = 0; i < r.length; i++) luminosity[i] = r[i] === g[i] && g[i] === b[i] ? r[i]! / 65535 : lumOf(r[i]!, g[i]!, b[i]!) / 65535;
    sampleSmooth(luminosity, area, view, out);
  },
  changedArea: () => null,
  summary: () => 'Imported mask',
};
