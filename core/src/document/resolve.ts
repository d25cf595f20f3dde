/** A document as it acts: links between masks followed, and only what is to be looked at. */
import { eachMask, innerMask, withInner, type Mask, type MaskPart } from '../mask/registry.ts';
import type { MaskOwner } from './region.ts';
import { areaReadings, childrenOf, eachLayer, eachMaskOwner, findLayer, findMaskOwner, isLayer } from './tree.ts';
import type { Layer, UmboDocument } from './types.ts';

/** A layer with the mask that is in effect. As long as nothing in it or its mask changes, it stays the same object. */
export interface ResolvedLayer {
  readonly layer: Layer;
  readonly where: Mask;
  /** The layer whose mask it is: its own id, or that of the layer at the end of the links. */
  readonly owner: string;
  readonly layers: readonly ResolvedLayer[];
}

/** Finds the layer or the region that a mask is linked to. */
export type FindMaskOwner = (id: string) => MaskOwner | undefined;

const layersSeen = new WeakMap<Layer, ResolvedLayer>();
const masksSeen = new WeakMap<Mask, Mask>();
const partsSeen = new WeakMap<MaskPart, MaskPart>();
const listsSeen = new WeakMap<readonly MaskPart[], MaskPart[]>();
const stepsSeen = new WeakMap<Mask['refine'], { first: Mask['refine']; joined: Mask['refine'] }>();

/**
 * The mask in effect: where it, or a mask within its parts, is a link, the parts are those of the mask at the end of the links, and the
 * refining steps are those of every mask on the way, from the end on. A link to a layer that is gone, or back to itself, counts as a mask
 * without parts. As long as nothing changes, it stays the same object.
 */
export function resolveMask(where: Mask, find: FindMaskOwner): Mask {
  return resolved(where, find, []);
}

function resolved(mask: Mask, find: FindMaskOwner, passed: readonly Mask[]): Mask {
  const path = [...passed, mask];
  if (mask.link === undefined) {
    const parts = resolvedParts(mask.parts, find, path);
    return parts === mask.parts ? mask : known(mask, parts, mask.refine);
  }
  const giver = find(mask.link)?.where;
  const source = giver && !path.includes(giver) ? resolved(giver, find, path) : NO_PARTS;
  return known(mask, source.parts, mask.refine.length === 0 ? source.refine : joinedSteps(source.refine, mask.refine));
}

function known(mask: Mask, parts: MaskPart[], refine: Mask['refine']): Mask {
  const seen = masksSeen.get(mask);
  if (seen?.parts === parts && seen.refine === refine) return seen;
  const made: Mask = { parts, refine, strength: mask.strength, invert: mask.invert };
  masksSeen.set(mask, made);
  return made;
}

function resolvedParts(parts: MaskPart[], find: FindMaskOwner, path: readonly Mask[]): MaskPart[] {
  const next = parts.map((part) => {
    const inner = innerMask(part);
    const acts = inner && resolved(inner, find, path);
    if (acts === inner) return part;
    const seen = partsSeen.get(part);
    if (seen && innerMask(seen) === acts) return seen;
    const made = withInner(part, acts!);
    partsSeen.set(part, made);
    return made;
  });
  if (next.every((part, i) => part === parts[i])) return parts;
  const seen = listsSeen.get(parts);
  if (seen && next.every((part, i) => part === seen[i])) return seen;
  listsSeen.set(parts, next);
  return next;
}

function joinedSteps(first: Mask['refine'], then: Mask['refine']): Mask['refine'] {
  const seen = stepsSeen.get(then);
  if (seen && seen.first === first) return seen.joined;
  const joined = [...first, ...then];
  stepsSeen.set(then, { first, joined });
  return joined;
}

const NO_PARTS: Mask = { parts: [], refine: [], strength: 1, invert: false };

/** The layers and regions to whose masks a mask is linked: as a whole, or in its parts. */
export const linksOf = (where: Mask): string[] => Array.from(eachMask(where)).flatMap(({ link }) => link ?? []);

/** Whether a mask is that of another layer or region, or is linked to it, itself or through others. */
export const leadsTo = (document: UmboDocument, from: string, to: string): boolean =>
  from === to || linksOf(findMaskOwner(document, from)?.where ?? NO_PARTS).some((id) => leadsTo(document, id, to));

/** A link in a loop of them, or to what is not there, and whose it is; null when every link leads somewhere. @param owner to begin at */
export function brokenLink(owner: MaskOwner, find: FindMaskOwner): { kind: 'loop' | 'gone'; at: MaskOwner } | null {
  const sound = new Set<string>();
  const visit = (at: MaskOwner, path: readonly string[]): ReturnType<typeof brokenLink> => {
    if (path.includes(at.id)) return { kind: 'loop', at };
    if (sound.has(at.id)) return null;
    for (const id of linksOf(at.where)) {
      const next = find(id);
      const broken = next ? visit(next, [...path, at.id]) : { kind: 'gone' as const, at };
      if (broken) return broken;
    }
    sound.add(at.id);
    return null;
  };
  return visit(owner, []);
}

/** The layer at the end of the links of whole masks; what is below that layer, its mask looks at. A region has nothing below it. */
function ownerOf(layer: Layer, find: FindMaskOwner): string {
  const passed = new Set<string>();
  let at = layer;
  while (at.where.link !== undefined && !passed.has(at.id)) {
    passed.add(at.id);
    const next = find(at.where.link);
    if (!next || !isLayer(next)) break;
    at = next;
  }
  return at.id;
}

/** A region, or a reading's area, as a layer that never acts: so its mask is seen, and measured, as a layer's is. */
function layerOf(owner: MaskOwner): Layer {
  let layer = ownerLayers.get(owner);
  if (!layer) {
    const { id, name, where } = owner;
    const what: Layer['what'] = { kind: 'group', settings: { apart: false }, layers: [] };
    ownerLayers.set(owner, (layer = { id, name, on: false, where, what, how: { mode: 'normal', opacity: 1 } }));
  }
  return layer;
}
const ownerLayers = new WeakMap<MaskOwner, Layer>();

/** The layers of a document with the masks that are in effect; after them its regions and readings of areas, as layers that do not act. */
export function resolveLayers(document: UmboDocument): readonly ResolvedLayer[] {
  let byId: Map<string, MaskOwner> | undefined;
  const find: FindMaskOwner = (id) => (byId ??= new Map(Array.from(eachMaskOwner(document), (owner) => [owner.id, owner]))).get(id);
  const resolve = (layer: Layer): ResolvedLayer => {
    const where = resolveMask(layer.where, find);
    const owner = ownerOf(layer, find);
    const layers = childrenOf(layer).map(resolve);
    const known = layersSeen.get(layer);
    if (known && known.where === where && known.owner === owner && known.layers.every((child, i) => child === layers[i])) return known;
    const resolved = { layer, where, owner, layers };
    layersSeen.set(layer, resolved);
    return resolved;
  };
  return [...document.layers, ...[...(document.regions ?? []), ...areaReadings(document)].map(layerOf)].map(resolve);
}

/** What of an edit is looked at. */
export interface Peek {
  /** Only this layer, and what is in it. */
  solo: string | null;
  /** The picture as it is after this layer; 'photograph' is the picture before any. */
  upTo: string | null;
  /** The picture as it is below this layer. */
  below?: string;
  /** This layer acts everywhere, as if it had no mask; those that are linked to its mask keep it. */
  unmasked?: string | null;
}

const seen = new WeakMap<UmboDocument, { key: string; document: UmboDocument }>();

/**
 * The document that shows what is looked at; the document itself when that is all of it.
 * @example
 * const document = { ...emptyDocument({ width: 60, height: 40 }), layers: ['a', 'b'].map((id) => adjustmentLayer(id, 'exposure', id)) };
 * peekAt(document, { solo: null, upTo: 'a' }).layers.map(({ on }) => on); // → [true, false]
 */
export function peekAt(document: UmboDocument, { solo, upTo, below, unmasked = null }: Peek): UmboDocument {
  if (solo === null && upTo === null && below === undefined && unmasked === null) return document;
  const key = `${solo} ${upTo} ${below} ${unmasked}`;
  const known = seen.get(document);
  if (known?.key === key) return known.document;
  let shown = document;
  if (upTo === 'photograph') shown = { ...shown, layers: [] };
  else if (upTo !== null) {
    const layers = until(shown.layers, upTo, true);
    if (layers) shown = { ...shown, layers };
  }
  if (below !== undefined) shown = { ...shown, layers: until(shown.layers, below, false) ?? shown.layers };
  if (solo !== null && [...eachLayer(shown.layers)].some(({ id }) => id === solo)) shown = { ...shown, layers: only(shown.layers, solo) };
  if (unmasked !== null) shown = { ...shown, layers: withoutMask(shown, shown.layers, unmasked) };
  seen.set(document, { key, document: shown });
  return shown;
}

/** The document with every alternative that a layer is, or is in, shown. */
export function showing(document: UmboDocument, id: string): UmboDocument {
  const visit = (layers: readonly Layer[]): Layer[] | null => {
    for (const [i, layer] of layers.entries()) {
      if (layer.id === id) return [...layers];
      const inside = visit(childrenOf(layer));
      if (!inside) continue;
      const shown = childrenOf(layer).find((child) => child.id === id || [...eachLayer(childrenOf(child))].some((one) => one.id === id))!;
      const next = withLayers(layer, inside);
      const what = next.what.kind === 'colourways' ? { ...next.what, settings: { shown: shown.id } } : next.what;
      return [...layers.slice(0, i), { ...next, what }, ...layers.slice(i + 1)];
    }
    return null;
  };
  const inSet = [...eachLayer(document.layers)].some(({ what }) => what.kind === 'colourways');
  return inSet ? { ...document, layers: visit(document.layers) ?? document.layers } : document;
}

/** The layers, one of them without its mask; masks that are linked to that are what it was. */
function withoutMask(document: UmboDocument, layers: readonly Layer[], bare: string): Layer[] {
  return layers.map((layer) => {
    const inside = childrenOf(layer);
    const next = inside.length > 0 ? withLayers(layer, withoutMask(document, inside, bare)) : layer;
    if (layer.id === bare) return { ...next, where: NO_PARTS };
    if (!linksOf(layer.where).includes(bare)) return next;
    return { ...next, where: resolveMask(layer.where, (id) => findMaskOwner(document, id)) };
  });
}

const withLayers = (layer: Layer, layers: Layer[]): Layer => ({ ...layer, what: { ...layer.what, layers } as Layer['what'] });

/** The layers up to one of them, with it or without; those after it switched off, so that links to their masks go on. Null when it is not there. */
function until(layers: readonly Layer[], id: string, inclusive: boolean): Layer[] | null {
  const off = (layer: Layer): Layer => ({ ...layer, on: false });
  for (const [i, layer] of layers.entries()) {
    const inside = layer.id === id ? null : until(childrenOf(layer), id, inclusive);
    if (layer.id !== id && !inside) continue;
    const last = inside ? withLayers(layer, inside) : inclusive ? layer : off(layer);
    return [...layers.slice(0, i), last, ...layers.slice(i + 1).map(off)];
  }
  return null;
}

/** The stack below a layer with the layer itself on it as it is without a mask, blending and limits: its own tones. */
export function stackWith(document: UmboDocument, id: string): UmboDocument {
  const alone = (layers: readonly Layer[]): Layer[] =>
    layers.map((layer) => {
      if (layer.id === id) return { ...layer, on: true, clip: false, where: NO_PARTS, how: { mode: 'normal', opacity: 1 } };
      return childrenOf(layer).length > 0 ? withLayers(layer, alone(childrenOf(layer))) : layer;
    });
  const below = stackBackdrop(document, id);
  return { ...below, layers: alone(below.layers) };
}

/**
 * The stack as the surroundings of a layer are seen: what is below it, where the groups that it is in count as groups without a mask, a
 * blending of their own, or transparency, and alternatives beside it do not count.
 */
export function stackBackdrop(document: UmboDocument, id: string): UmboDocument {
  const plain = (layer: Layer, layers: Layer[]): Layer => ({
    // An id of its own: the mask that is known under the group's is another.
    id: `${layer.id} plain`,
    name: layer.name,
    on: true,
    where: NO_PARTS,
    what: { kind: 'group', settings: { apart: false }, layers },
    how: { mode: 'normal', opacity: 1 },
  });
  const below = (layers: readonly Layer[], exclusive: boolean): Layer[] | null => {
    for (const [i, layer] of layers.entries()) {
      const inside = layer.id === id ? null : below(childrenOf(layer), layer.what.kind === 'colourways');
      if (layer.id !== id && !inside) continue;
      const off = (other: Layer): Layer => ({ ...other, on: false });
      const earlier = exclusive ? layers.slice(0, i).map(off) : layers.slice(0, i);
      return [...earlier, inside ? plain(layer, inside) : off(layer), ...layers.slice(i + 1).map(off)];
    }
    return null;
  };
  return { ...document, layers: below(document.layers, false) ?? document.layers, strength: 1 };
}

function only(layers: readonly Layer[], id: string): Layer[] {
  return layers.map((layer) => {
    if (layer.id === id) return { ...layer, on: true };
    if (![...eachLayer(childrenOf(layer))].some((child) => child.id === id)) return { ...layer, on: false };
    const inside = withLayers({ ...layer, on: true }, only(childrenOf(layer), id));
    return layer.what.kind === 'colourways' ? { ...inside, what: { ...inside.what, settings: { shown: id } } as Layer['what'] } : inside;
  });
}

/** The edit with each alternative of a colourway set in turn; none when there is no such set. */
export function waysOf(document: UmboDocument, setId: string): { id: string; name: string; document: UmboDocument }[] {
  const withShown = (layers: readonly Layer[], shown: string): Layer[] =>
    layers.map((layer) => {
      if (layer.id === setId && layer.what.kind === 'colourways')
        return { ...layer, on: true, what: { ...layer.what, settings: { shown } } };
      return 'layers' in layer.what ? withLayers(layer, withShown(layer.what.layers, shown)) : layer;
    });
  const set = findLayer(document, setId);
  if (set?.what.kind !== 'colourways') return [];
  return set.what.layers.map(({ id, name }) => ({ id, name, document: { ...document, layers: withShown(document.layers, id) } }));
}

/** What acts before a layer, and the groups that it is in, without what is in them: what the picture below it depends on. */
export function resolvedBackdrop(nodes: readonly ResolvedLayer[], id: string): ResolvedLayer[] {
  const below: ResolvedLayer[] = [];
  for (const node of nodes) {
    if (node.layer.id === id) break;
    if (findResolved(node.layers, id)) return [...below, { ...node, layers: [] }, ...resolvedBackdrop(node.layers, id)];
    below.push(node);
  }
  return below;
}

/** A layer among resolved ones, in whatever group. */
export function findResolved(nodes: readonly ResolvedLayer[], id: string): ResolvedLayer | undefined {
  for (const node of nodes) {
    const found = node.layer.id === id ? node : findResolved(node.layers, id);
    if (found) return found;
  }
  return undefined;
}
