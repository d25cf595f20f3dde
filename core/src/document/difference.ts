/** What changed between two states of an edit, as the smallest patches. States share what they have in common, so that little is compared. */
import type { Patch } from 'immer';

type Path = (string | number)[];
type Bag = Readonly<Record<string, unknown>>;

const isBag = (value: unknown): value is Bag => typeof value === 'object' && value !== null && !Array.isArray(value);

/** Whether two values say the same as JSON: what is undefined is not there, and the order of keys does not matter. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (Object.is(a, b) || (a === 0 && b === 0)) return true;
  if (Array.isArray(a)) return Array.isArray(b) && a.length === b.length && a.every((value, i) => sameValue(value, b[i]));
  if (!isBag(a) || !isBag(b)) return false;
  return keysOf(a, b).every((key) => sameValue(a[key], b[key]));
}

const keysOf = (a: Bag, b: Bag): string[] => Object.keys({ ...a, ...b });

/**
 * The patches that lead from one value to another. In lists only what differs between their common beginning and end is written;
 * an element with another `id` or `kind` is another element.
 * @example
 * difference({ list: [1, 2, 3] }, { list: [1, 3] }); // → [{ op: 'remove', path: ['list', 1] }]
 */
export function difference(from: unknown, to: unknown, path: Path = []): Patch[] {
  if (sameReference(from, to)) return [];
  const replaced: Patch[] = [{ op: 'replace', path, value: to }];
  if (Array.isArray(from) && Array.isArray(to)) return listDifference(from, to, path) ?? replaced;
  if (!isBag(from) || !isBag(to) || !sameValue(from.id, to.id) || !sameValue(from.kind, to.kind)) return replaced;
  return keysOf(from, to).flatMap((key): Patch[] => {
    const [a, b] = [from[key], to[key]];
    if (b === undefined) return a === undefined ? [] : [{ op: 'remove', path: [...path, key] }];
    return a === undefined ? [{ op: 'add', path: [...path, key], value: b }] : difference(a, b, [...path, key]);
  });
}

const sameReference = (a: unknown, b: unknown): boolean => Object.is(a, b) || (a === 0 && b === 0);

/** Null when the list as a whole is shorter to write. */
function listDifference(from: readonly unknown[], to: readonly unknown[], path: Path): Patch[] | null {
  const shorter = Math.min(from.length, to.length);
  let head = 0;
  while (head < shorter && sameValue(from[head], to[head])) head++;
  let tail = 0;
  while (tail < shorter - head && sameValue(from[from.length - 1 - tail], to[to.length - 1 - tail])) tail++;
  const changed = shorter - head - tail;
  const grown = to.length - from.length;
  // A patch is about as long as a handful of numbers.
  if (to.length > 8 && typeof to[0] === 'number' && (changed + Math.abs(grown)) * 5 > to.length) return null;
  const patches: Patch[] = [];
  for (let i = head; i < head + changed; i++) patches.push(...difference(from[i], to[i], [...path, i]));
  const end = head + changed;
  for (let i = 0; i < grown; i++) patches.push({ op: 'add', path: [...path, end + i], value: to[end + i] });
  for (let i = 0; i < -grown; i++) patches.push({ op: 'remove', path: [...path, end - grown - 1 - i] });
  return patches;
}
