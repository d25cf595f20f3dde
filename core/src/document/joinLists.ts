/** Joining two changes of one list: what its elements go by, and their order. */
import { sameValue } from './difference.ts';

type Keys = readonly string[];

/**
 * What the elements of a list go by: their ids; where they have none, such as refining steps, their kinds and which of its kind each is.
 * Null: they cannot be told apart, and such a list is joined as a whole.
 */
export function elementKeys(list: unknown): string[] | null {
  if (!Array.isArray(list)) return null;
  const counts = new Map<string, number>();
  const keys: string[] = [];
  for (const element of list) {
    if (typeof element !== 'object' || element === null || Array.isArray(element)) return null;
    const { id, kind } = element as { id?: unknown; kind?: unknown };
    if (typeof id === 'string') keys.push(id);
    else if (typeof kind === 'string') {
      const count = (counts.get(kind) ?? 0) + 1;
      counts.set(kind, count);
      keys.push(`${kind} ${count}`);
    } else return null;
  }
  return new Set(keys).size === keys.length ? keys : null;
}

/**
 * The order of two lists that began as one: that of the side which moved something; what only the other has keeps its place above its
 * neighbour there.
 * @param lead whose order stands where both moved something, each otherwise
 * @param clash called where they did
 * @example
 * joinOrder(['a', 'b', 'c'], ['a', 'b', 'new', 'c'], ['c', 'a', 'b'], 'mine', () => undefined); // → ['c', 'a', 'b', 'new']
 */
export function joinOrder(base: Keys, mine: Keys, theirs: Keys, lead: 'mine' | 'theirs', clash: () => void): string[] {
  const [inBase, inMine, inTheirs] = [new Set(base), new Set(mine), new Set(theirs)];
  const common = (keys: Keys): Keys => keys.filter((key) => inBase.has(key) && inMine.has(key) && inTheirs.has(key));
  const [was, here, there] = [common(base), common(mine), common(theirs)];
  const [iMoved, theyMoved] = [!sameValue(here, was), !sameValue(there, was)];
  if (iMoved && theyMoved && !sameValue(here, there)) clash();
  const mineLeads = iMoved && (!theyMoved || lead === 'mine');
  const [first, other] = mineLeads ? [mine, theirs] : [theirs, mine];
  const order = [...first];
  const placed = new Set(order);
  let at = 0;
  for (const key of other) {
    if (placed.has(key)) at = order.indexOf(key) + 1;
    else {
      order.splice(at++, 0, key);
      placed.add(key);
    }
  }
  return order;
}
