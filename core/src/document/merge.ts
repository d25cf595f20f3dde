import { produce } from 'immer';
import { eachMask } from '../mask/registry.ts';
import { sameValue } from './difference.ts';
import { documentFields, fieldKeys } from './fields.ts';
import { inSpace } from './inSpace.ts';
import { freeCopyId } from './copyIds.ts';
import { partIds, plain } from './edit.ts';
import { elementKeys, joinOrder } from './joinLists.ts';
import { brokenLink, linksOf, resolveMask } from './resolve.ts';
import type { SpaceId } from '../base/space.ts';
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

/**
 * Joins two changes of one value, setting by setting, and lists element by element where those can be told apart. Calls `clash` where both
 * changed the same, and keeps that of `side`.
 */
function joinValues(base: unknown, mine: unknown, theirs: unknown, side: Side, clash: () => void): unknown {
  if (sameValue(mine, theirs) || sameValue(base, theirs)) return mine;
  if (sameValue(base, mine)) return theirs;
  const list = joinLists(base, mine, theirs, side, clash);
  if (list) return list.length === 0 && (mine === undefined || theirs === undefined) ? undefined : list;
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

/** Null: they are no lists whose elements can be told apart. */
function joinLists(base: unknown, mine: unknown, theirs: unknown, side: Side, clash: () => void): unknown[] | null {
  // A list that is not there holds nothing.
  const lists = [base, mine, theirs].map((list) => list ?? []) as [unknown[], unknown[], unknown[]];
  const keys = lists.map(elementKeys);
  if (keys.some((one) => one === null) || lists.every((list) => list.length === 0)) return null;
  const [was, here, there] = keys as [string[], string[], string[]];
  const [b, m, t] = lists.map((list, i) => new Map(keys[i]!.map((key, at) => [key, list[at]]))) as [Elements, Elements, Elements];
  return joinOrder(was, here, there, side, clash)
    .map((key) => joinValues(b.get(key), m.get(key), t.get(key), side, clash))
    .filter((one) => one !== undefined);
}
type Elements = Map<string, unknown>;

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
 * Where a layer stands, and the order in a group, are taken from the side that moved something; layers new on the other side keep their place
 * above their neighbour.
 * @param side whose value stands where both changed the same setting; everything else is kept from both
 * @example
 * const base = { ...emptyDocument({ width: 60, height: 40 }), layers: [adjustmentLayer('a', 'exposure', 'A')] };
 * const mine = after(base, onLayer('a', (layer) => void (layer.name = 'Lighter')));
 * const theirs = after(base, onLayer('a', (layer) => void (layer.on = false)));
 * const { document, conflicts } = mergeDocuments(base, mine, theirs);
 * [document.layers[0].name, document.layers[0].on, conflicts]; // → ['Lighter', false, []]
 */
export function mergeDocuments(base: UmboDocument, mine: UmboDocument, theirs: UmboDocument, side: Side = 'mine'): Merged {
  const conflicts: string[] = [];
  const told = (words: string) => (): void => {
    if (!conflicts.includes(words)) conflicts.push(words);
  };
  // Colours are compared in one space: that to which a side went over.
  const [wasIn, mineIn, theirsIn] = [base, mine, theirs].map(({ workingSpace }) => workingSpace) as [SpaceId, SpaceId, SpaceId];
  const space = joinValues(wasIn, mineIn, theirsIn, side, told('the working space')) as SpaceId;
  if ([wasIn, mineIn, theirsIn].some((one) => one !== space)) {
    const joined = mergeDocuments(inSpace(base, space), inSpace(mine, space), inSpace(theirs, space), side);
    return { ...joined, conflicts: [...conflicts, ...joined.conflicts] };
  }
  const [b, m, t] = [flatten(base), flatten(mine), flatten(theirs)];

  const picked = new Map<string, Layer>();
  for (const id of new Set([...m.layers.keys(), ...t.layers.keys()])) {
    const [before, here, there] = [b.layers.get(id), m.layers.get(id), t.layers.get(id)];
    const joined = joinValues(before, here, there, side, told((here ?? there)!.name)) as Layer | undefined;
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
    const group = picked.get(parent);
    const order = joinOrder(baseIds, mineIds, theirIds, side, told(group ? `the order in ${group.name}` : 'the order of the layers'));
    const strays = [...parents.keys()].filter((id) => belongs(id) && !mineIds.includes(id) && !theirIds.includes(id));
    return [...order, ...strays].map((id) => {
      const layer = picked.get(id)!;
      return 'layers' in layer.what ? ({ ...layer, what: { ...layer.what, layers: build(id) } } as Layer) : layer;
    });
  };

  const { format, version, workingSpace, photo } = mine;
  const document: UmboDocument = { format, version, workingSpace, photo, layers: build(ROOT) };
  for (const key of fieldKeys) {
    const { words, apart } = documentFields[key];
    const joined = joinValues(base[key], mine[key], theirs[key], side, told(words));
    if (joined === undefined) continue;
    const value = apart ? structuredClone(joined) : joined;
    apart?.(value as never);
    Object.assign(document, { [key]: value });
  }
  return { document: produce(sound(document, [theirs, mine]), (draft) => keepTogether(base, draft)), conflicts };
}

/** Whether two parts of a mask have the same id. */
function hasDoubles(where: MaskOwner['where']): boolean {
  const ids = Array.from(eachMask(where)).flatMap(({ parts }) => parts.map(({ id }) => id));
  return new Set(ids).size < ids.length;
}

/** What each side left sound, both together may not: parts get ids of their own, links to layers that are gone or in a loop become copies, sets show what they have. */
function sound(document: UmboDocument, sides: readonly UmboDocument[]): UmboDocument {
  const ownersOf = (one: UmboDocument) => Array.from(eachMaskOwner(one), (owner) => [owner.id, owner] as const);
  const byId = new Map(ownersOf(document));
  const known = new Map([...sides.flatMap(ownersOf), ...byId]);
  const find = (id: string): MaskOwner | undefined => byId.get(id);
  const taken = partIds(byId.values());
  /** Whether links lead from somewhere to an owner. */
  const leads = (from: string, to: string): boolean => {
    const passed = new Set<string>();
    const visit = (id: string): boolean => {
      if (id === to) return true;
      const next = passed.has(id) ? undefined : find(id);
      passed.add(id);
      return next !== undefined && linksOf(next.where).some(visit);
    };
    return visit(from);
  };
  const mended = <T extends MaskOwner>(owner: T): T => {
    if (!brokenLink(owner, find) && !hasDoubles(owner.where)) return owner;
    const where = plain(owner.where);
    const before = [...eachMask(owner.where)];
    let isCut = false;
    for (const [i, mask] of [...eachMask(where)].entries()) {
      if (mask.link === undefined || (find(mask.link) && !leads(mask.link, owner.id))) continue;
      isCut = true;
      // What it showed of another gets ids of its own.
      const { parts, refine } = plain(resolveMask(before[i]!, (id) => known.get(id)));
      for (const each of eachMask({ ...mask, parts })) for (const part of each.parts) part.id = freeCopyId(part.id, taken);
      Object.assign(mask, { parts, refine });
      delete mask.link;
    }
    // Both sides may have given the same id to copies of their own.
    const seen = new Set<string>();
    for (const { parts } of eachMask(where))
      for (const part of parts) {
        if (seen.has(part.id)) part.id = freeCopyId(part.id, taken);
        seen.add(part.id);
      }
    return isCut || hasDoubles(owner.where) ? { ...owner, where } : owner;
  };
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
