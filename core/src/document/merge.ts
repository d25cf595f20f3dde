import type { Layer, UmboDocument } from './types.ts';

/** What became of two edits that began from the same state. */
export interface Merged {
  document: UmboDocument;
  /** Names of the layers that both sides changed differently; there `mine` stands in the document. */
  conflicts: string[];
}

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/**
 * Three-way merge, layer by layer: what only one side touched is taken from that side.
 * The order is mine where I changed it, else theirs; layers new on the other side keep their place above their neighbour.
 */
export function mergeDocuments(base: UmboDocument, mine: UmboDocument, theirs: UmboDocument): Merged {
  const conflicts: string[] = [];
  const find = (document: UmboDocument, id: string): Layer | undefined => document.layers.find((layer) => layer.id === id);
  const ids = (document: UmboDocument): string[] => document.layers.map((layer) => layer.id);

  const pick = (id: string): Layer | undefined => {
    const b = find(base, id);
    const m = find(mine, id);
    const t = find(theirs, id);
    if (same(m, t) || same(b, t)) return m;
    if (same(b, m)) return t;
    conflicts.push((m ?? t)!.name);
    return m ?? t;
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
