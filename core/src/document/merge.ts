import type { Layer, UmboDocument } from './types.ts';

/** What became of two edits that began from the same state. */
export interface Merged {
  document: UmboDocument;
  /** Names of the layers that both sides changed differently; there `mine` stands in the document. */
  conflicts: string[];
}

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null && !Array.isArray(value);

/** Joins two changes of one value, setting by setting; lists are taken whole. Calls `clash` where both changed the same, and keeps mine. */
function joinValues(base: unknown, mine: unknown, theirs: unknown, clash: () => void): unknown {
  if (same(mine, theirs) || same(base, theirs)) return mine;
  if (same(base, mine)) return theirs;
  if (!isObject(base) || !isObject(mine) || !isObject(theirs)) {
    clash();
    return mine;
  }
  return Object.fromEntries(Object.keys({ ...theirs, ...mine }).map((key) => [key, joinValues(base[key], mine[key], theirs[key], clash)]));
}

/**
 * Three-way merge, layer by layer and within a layer setting by setting: what only one side touched is taken from that side.
 * The order is mine where I changed it, else theirs; layers new on the other side keep their place above their neighbour.
 */
export function mergeDocuments(base: UmboDocument, mine: UmboDocument, theirs: UmboDocument): Merged {
  const conflicts: string[] = [];
  const find = (document: UmboDocument, id: string): Layer | undefined => document.layers.find((layer) => layer.id === id);
  const ids = (document: UmboDocument): string[] => document.layers.map((layer) => layer.id);

  const pick = (id: string): Layer | undefined => {
    const [b, m, t] = [find(base, id), find(mine, id), find(theirs, id)];
    let clashes = false;
    const joined = joinValues(b, m, t, () => (clashes = true)) as Layer | undefined;
    if (clashes) conflicts.push((m ?? t)!.name);
    return clashes ? (m ?? t) : joined;
  };

  const keptBase = (document: UmboDocument): string[] => ids(document).filter((id) => find(base, id) && find(mine, id) && find(theirs, id));
  const iMoved = !same(keptBase(mine), keptBase(base));
  const [lead, other] = iMoved ? [mine, theirs] : [theirs, mine];
  const order = ids(lead);
  const others = ids(other);
  for (const [i, id] of others.entries()) {
    if (order.includes(id)) continue;
    const below = others
      .slice(0, i)
      .reverse()
      .find((candidate) => order.includes(candidate));
    order.splice(below ? order.indexOf(below) + 1 : 0, 0, id);
  }
  const layers = order.map(pick).filter((layer) => layer !== undefined);
  return { document: { ...mine, layers }, conflicts };
}
