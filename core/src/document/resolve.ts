/** A document as it acts: links between masks followed, and only what is to be looked at. */
import type { Mask } from '../mask/registry.ts';
import { childrenOf, eachLayer, findLayer } from './tree.ts';
import type { Layer, UmboDocument } from './types.ts';

/** A layer with the mask that is in effect. As long as nothing in it or its mask changes, it stays the same object. */
export interface ResolvedLayer {
  readonly layer: Layer;
  readonly where: Mask;
  /** The layer whose mask it is: its own id, or that of the layer at the end of the links. */
  readonly owner: string;
  readonly layers: readonly ResolvedLayer[];
}

const layersSeen = new WeakMap<Layer, ResolvedLayer>();
const masksSeen = new WeakMap<Mask, { source: Mask; resolved: Mask }>();

/**
 * The mask in effect: where it is a link, the parts and refining steps are those of the layer at the end of the links.
 * A link to a layer that is gone, or back to itself, counts as a mask without parts.
 */
export function resolveMask(where: Mask, find: (id: string) => Layer | undefined): Mask {
  if (where.link === undefined) return where;
  const passed = new Set<Mask>([where]);
  let source: Mask | undefined = where;
  while (source?.link !== undefined) {
    source = find(source.link)?.where;
    if (source && passed.has(source)) source = undefined;
    if (source) passed.add(source);
  }
  const target = source ?? NO_PARTS;
  let known = masksSeen.get(where);
  if (known?.source !== target)
    masksSeen.set(
      where,
      (known = {
        source: target,
        resolved: { parts: target.parts, refine: target.refine, strength: where.strength, invert: where.invert },
      }),
    );
  return known.resolved;
}
const NO_PARTS: Mask = { parts: [], refine: [], strength: 1, invert: false };

function ownerOf(layer: Layer, find: (id: string) => Layer | undefined): string {
  const passed = new Set<Layer>();
  let at = layer;
  while (at.where.link !== undefined && !passed.has(at)) {
    passed.add(at);
    const next = find(at.where.link);
    if (!next) break;
    at = next;
  }
  return at.id;
}

/** The layers of a document with the masks that are in effect. */
export function resolveLayers(document: UmboDocument): readonly ResolvedLayer[] {
  let byId: Map<string, Layer> | undefined;
  const find = (id: string): Layer | undefined =>
    (byId ??= new Map(Array.from(eachLayer(document.layers), (layer) => [layer.id, layer]))).get(id);
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
  return document.layers.map(resolve);
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
  const bare = [...eachLayer(shown.layers)].find(({ id }) => id === unmasked);
  if (bare) shown = { ...shown, layers: withoutMask(shown.layers, bare) };
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
function withoutMask(layers: readonly Layer[], bare: Layer): Layer[] {
  const { parts, refine, link } = bare.where;
  return layers.map((layer) => {
    const inside = childrenOf(layer);
    const next = inside.length > 0 ? withLayers(layer, withoutMask(inside, bare)) : layer;
    if (layer.id === bare.id) return { ...next, where: NO_PARTS };
    if (layer.where.link !== bare.id) return next;
    const { strength, invert } = layer.where;
    return { ...next, where: { parts, refine, strength, invert, ...(link !== undefined && { link }) } };
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
  const below = stackBelow(document, id);
  return { ...below, layers: alone(below.layers) };
}

/**
 * The stack as the surroundings of a layer are seen: what is below it, where the groups that it is in count as groups without a mask, a
 * blending of their own, or transparency, and alternatives beside it do not count.
 */
export function stackBelow(document: UmboDocument, id: string): UmboDocument {
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
export function resolvedBelow(nodes: readonly ResolvedLayer[], id: string): ResolvedLayer[] {
  const below: ResolvedLayer[] = [];
  for (const node of nodes) {
    if (node.layer.id === id) break;
    if (findResolved(node.layers, id)) return [...below, { ...node, layers: [] }, ...resolvedBelow(node.layers, id)];
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
