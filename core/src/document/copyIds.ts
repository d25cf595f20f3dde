/** Ids of copies that are the same whenever they are made: of what comes to another edit, and of parts that stop being links. */

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

/** The id of the first copy of something that is not taken yet; it is taken then. */
export function freeCopyId(id: string, taken: Set<string>): string {
  let copy = 1;
  while (taken.has(idOfCopy(id, copy))) copy++;
  taken.add(idOfCopy(id, copy));
  return idOfCopy(id, copy);
}
