/** Ids that say which copy they are, and of what. */
import type { Layer } from '../document/types.ts';

const LONGEST_ID = 40;

/** An id that says which copy it is of what: the same whenever it is asked for. */
export function idOfCopy(id: string, copy: number): string {
  const mark = copy === 1 ? '' : `-${copy}`;
  return id.length + mark.length <= LONGEST_ID ? id + mark : `${id.slice(0, LONGEST_ID - mark.length - 9)}-${hash(id)}${mark}`;
}

/** Eight digits of a text (FNV-1a, 32 bits). */
export function hash(text: string): string {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  return (h >>> 0).toString(16).padStart(8, '0');
}

/** Which copy of a layer another is, by its id; undefined: none that was made here. */
export const copyNumber = (of: Layer, { id }: Layer): number | undefined =>
  [1, 2, 3, 4, 5, 6, 7, 8, 9].find((n) => idOfCopy(of.id, n) === id);
