import { produce } from 'immer';
import { sameValue } from './difference.ts';
import { documentFields, fieldKeys } from './fields.ts';
import { inSpace } from './inSpace.ts';
import { brokenLink, resolveMask } from './resolve.ts';
import type { MaskOwner } from './region.ts';
import { keepTogether } from './together.ts';
import { childrenOf, eachMaskOwner, isArea } from './tree.ts';
import type { Layer, UmboDocument } from './types.ts';

/** What became of two edits that began from the same state. */
export interface Merged {
  document: UmboDocument;
  /** What both sides changed differently: names of layers, and what else there is. */
  conflicts: string[];
}

export type Side = 'mine' | 'theirs';

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null && !Array.isArray(value);

/** Joins two changes of one value, setting by setting; lists are taken whole. Calls `clash` where both changed the same, and keeps that of `side`. */
function joinValues(base: unknown, mine: unknown, theirs: unknown, side: Side, clash: () => void): unknown {
  if (sameValue(mine, theirs) || sameValue(base, theirs)) return mine;
  if (sameValue(base, mine)) return theirs;
  // Settings of two kinds do not mix.
  if (!isObject(base) || !isObject(mine) || !isObject(theirs) || mine.kind !== theirs.kind) {
    clash();
    return side === 'mine' ? mine : theirs;
  }
  const joined: [string, unknown][] = Object.keys({ ...theirs, ...mine }).map((key) => [
    key,
    joinValues(base[key], mine[key], theirs[key], side, clash),
  ]);
  return Object.fromEntries(joined.filter(([, value]) => value !== undefined));
}

/** Joins two changes of a list of things with ids, one by one: in my order, with what is new on the other side at the end. */
function joinById(base: unknown, mine: unknown, theirs: unknown, side: Side, clash: () => void): unknown {
  const [b, m, t] = [base, mine, theirs].map((list) => new Map(((list ?? []) as { id: string }[]).map((one) => [one.id, one])));
  const joined = [...new Set([...m!.keys(), ...t!.keys()])].flatMap((id) => {
    const one = joinValues(b!.get(id), m!.get(id), t!.get(id), side, clash);
    return one === undefined ? [] : [one];
  });
  return joined.length > 0 ? joined : undefined;
}

/** A document taken apart: each layer without those in it, and which layers stand where. */
interface Flat {
  layers: Map<string, Layer>;
  parent: Map<string, string>;
  /** By the id of the group; '' is the document itself. */
  lists: Map<string, string[]>;
}

const ROOT = '';

function flatten(document: UmboDocument): Flat {
  const flat: Flat = { layers: new Map(), parent: new Map(), lists: new Map() };
  const walk = (list: readonly Layer[], parent: string): void => {
    flat.lists.set(
      parent,
      list.map(({ id }) => id),
    );
    for (const layer of list) {
      flat.parent.set(layer.id, parent);
      flat.layers.set(layer.id, 'layers' in layer.what ? { ...layer, what: { ...layer.what, layers: [] } } : layer);
      if ('layers' in layer.what) walk(layer.what.layers, layer.id);
    }
  };
  walk(document.layers, ROOT);
  return flat;
}

/**
 * Three-way merge, layer by layer and within a layer setting by setting: what only one side touched is taken from that side.
 * Where a layer stands is mine where I moved it, else theirs; the order in a group is mine where I changed it, else theirs, and
 * layers new on the other side keep their place above their neighbour.
 * @param side whose value stands where both changed the same setting; everything else is kept from both
 * @example
 * const base = { ...emptyDocument({ width: 60, height: 40 }), layers: [adjustmentLayer('a', 'exposure', 'A')] };
 * const mine = after(base, onLayer('a', (layer) => void (layer.name = 'Lighter')));
 * const theirs = after(base, onLayer('a', (layer) => void (layer.on = false)));
 * const { document, conflicts } = mergeDocuments(base, mine, theirs);
 * [document.layers[0].name, document.layers[0].on, conflicts]; // → ['Lighter', false, []]
 */
export function mergeDocuments(base: UmboDocument, mine: UmboDocument, theirs: UmboDocument, side: Side = 'mine'): Merged {
  // Colours are compared in one space: that to which a side went over.
  const space = mine.workingSpace === base.workingSpace ? theirs.workingSpace : mine.workingSpace;
  if ([base, mine, theirs].some(({ workingSpace }) => workingSpace !== space))
    return mergeDocuments(inSpace(base, space), inSpace(mine, space), inSpace(theirs, space), side);
  const conflicts: string[] = [];
  const [b, m, t] = [flatten(base), flatten(mine), flatten(theirs)];

  const picked = new Map<string, Layer>();
  for (const id of new Set([...m.layers.keys(), ...t.layers.keys()])) {
    let clashes = false;
    const [before, here, there] = [b.layers.get(id), m.layers.get(id), t.layers.get(id)];
    const joined = joinValues(before, here, there, side, () => (clashes = true)) as Layer | undefined;
    if (clashes) conflicts.push((here ?? there)!.name);
    if (joined) picked.set(id, joined);
  }

  const parentOf = (id: string): string => {
    const [before, here, there] = [b.parent.get(id), m.parent.get(id), t.parent.get(id)];
    const parent = here !== undefined && (here !== before || there === undefined) ? here : (there ?? here)!;
    return parent === ROOT || picked.has(parent) ? parent : ROOT;
  };
  const parents = new Map([...picked.keys()].map((id) => [id, parentOf(id)]));
  // Two groups that were each put into the other would hold each other up: such layers go to the top.
  for (const id of parents.keys()) {
    const passed = new Set<string>();
    for (let at = id; at !== ROOT; at = parents.get(at)!) {
      if (passed.has(at)) {
        parents.set(at, ROOT);
        break;
      }
      passed.add(at);
    }
  }

  const build = (parent: string): Layer[] => {
    const belongs = (id: string): boolean => parents.get(id) === parent;
    const [mineIds, theirIds, baseIds] = [m, t, b].map((flat) => (flat.lists.get(parent) ?? []).filter(belongs)) as [
      string[],
      string[],
      string[],
    ];
    const inAll = (ids: string[]): string[] => ids.filter((id) => mineIds.includes(id) && theirIds.includes(id) && baseIds.includes(id));
    const iMoved = !sameValue(inAll(mineIds), inAll(baseIds));
    const [lead, others] = iMoved ? [mineIds, theirIds] : [theirIds, mineIds];
    const order = [...lead];
    const strays = [...parents.keys()].filter((id) => belongs(id) && !mineIds.includes(id) && !theirIds.includes(id));
    for (const [i, id] of others.entries()) {
      if (order.includes(id)) continue;
      const below = others
        .slice(0, i)
        .reverse()
        .find((candidate) => order.includes(candidate));
      order.splice(below ? order.indexOf(below) + 1 : 0, 0, id);
    }
    return [...order, ...strays].map((id) => {
      const layer = picked.get(id)!;
      return 'layers' in layer.what ? ({ ...layer, what: { ...layer.what, layers: build(id) } } as Layer) : layer;
    });
  };

  const { format, version, workingSpace, photo } = mine;
  const document: UmboDocument = { format, version, workingSpace, photo, layers: build(ROOT) };
  for (const key of fieldKeys) {
    const { words, byId = false, apart } = documentFields[key];
    const join = byId ? joinById : joinValues;
    const joined = join(base[key], mine[key], theirs[key], side, () => conflicts.push(words));
    if (joined === undefined) continue;
    const value = apart ? structuredClone(joined) : joined;
    apart?.(value as never);
    Object.assign(document, { [key]: value });
  }
  return { document: produce(sound(document, [theirs, mine]), (draft) => keepTogether(base, draft)), conflicts };
}

/** What each side left sound, both together may not: links to layers that are gone or in a loop become copies, sets show what they have. */
function sound(document: UmboDocument, sides: readonly UmboDocument[]): UmboDocument {
  const ownersOf = (one: UmboDocument) => Array.from(eachMaskOwner(one), (owner) => [owner.id, owner] as const);
  const byId = new Map(ownersOf(document));
  const known = new Map([...sides.flatMap(ownersOf), ...byId]);
  const find = (id: string): MaskOwner | undefined => byId.get(id);
  const mended = <T extends MaskOwner>(owner: T): T =>
    brokenLink(owner, find) ? { ...owner, where: resolveMask(owner.where, (id) => known.get(id)) } : owner;
  const mend = (layer: Layer): Layer | null => {
    const { where } = mended(layer);
    let { what } = layer;
    if ('layers' in what) {
      const layers = childrenOf(layer)
        .map(mend)
        .filter((child) => child !== null);
      what = { ...what, layers } as typeof what;
      if (what.kind === 'colourways' && !layers.some(({ id }) => id === (what.settings as { shown: string }).shown)) {
        if (!layers[0]) return null;
        what = { ...what, settings: { shown: layers[0].id } };
      }
    }
    return where === layer.where && sameValue(what, layer.what) ? layer : { ...layer, where, what };
  };
  const next: UmboDocument = {
    ...document,
    layers: document.layers.map(mend).filter((layer) => layer !== null),
    ...(document.regions && { regions: document.regions.map(mended) }),
    ...(document.readings && {
      readings: document.readings.map((reading) => (isArea(reading) ? mended(reading) : reading)),
    }),
  };
  // A set that went with its last alternative may have been linked to.
  return ownersOf(next).length < byId.size ? sound(next, sides) : next;
}
