/** Which layers act, and what they need before they can: masks and colours of their own. */
import type { SourceRaster } from '../base/sourceRaster.ts';
import { adjustment, reachOfFilter } from '../adjust/registry.ts';
import { passesNothing } from '../blend/componentMix.ts';
import { isSource, sourceKind } from '../content/registry.ts';
import { resolveLayers, type ResolvedLayer } from '../document/resolve.ts';
import { areaReadings } from '../document/tree.ts';
import type { Content, Layer, UmboDocument } from '../document/types.ts';
import { isPictureNeed, keyOf, type Need, type PictureNeed } from '../base/need.ts';
import { contentKind } from '../document/contentKind.ts';
import { maskNeeds } from '../mask/mask.ts';
import type { Rect, Scale } from '../base/geometry.ts';
import type { Raster } from '../base/planes.ts';

/** The layers of a group that can show: of a colourway set only the one that is chosen. */
function showing({ layer, layers }: ResolvedLayer): readonly ResolvedLayer[] {
  if (layer.what.kind !== 'colourways') return layers;
  const { shown } = layer.what.settings;
  // In a set the choice decides, not the switch.
  return layers
    .filter((child) => child.layer.id === shown)
    .map((child) => (child.layer.on ? child : { ...child, layer: { ...child.layer, on: true } }));
}

/** Whether the layer can change anything at all. */
export function acts(node: ResolvedLayer): boolean {
  const { on, what, how } = node.layer;
  if (!on || how.opacity === 0 || passesNothing(how.letThrough)) return false;
  if ('layers' in what) return showing(node).some(acts);
  if (isSource(what)) return !sourceKind(what.kind).repeatsBelow || how.mode !== 'normal';
  return how.mode !== 'normal' || !adjustment(what.kind).isNeutral(what.settings);
}

/** What is kept of a layer between renderings; it covers the region that is rendered. */
export interface LayerPixels {
  /** Null: the layer acts everywhere. */
  readonly mask: Uint16Array | null;
  /** Null for content without a raster. */
  readonly source: SourceRaster | null;
  /** What an adjustment made of the picture below it, where that depends on a pixel's surroundings; else null. */
  readonly filtered: Raster | null;
}

export const NO_PIXELS: LayerPixels = { mask: null, source: null, filtered: null };

/** A layer ready to be applied. */
export interface PreparedLayer {
  readonly layer: Layer;
  /** Its place in the list that it is in; layers that cannot act are missing between the prepared ones. */
  readonly top: number;
  /** The part of the picture that mask and raster cover. */
  readonly area: Rect;
  readonly mask: Uint16Array | null;
  readonly source: SourceRaster | null;
  readonly filtered: Raster | null;
  readonly layers: readonly PreparedLayer[];
  /** The layer below, to whose cover this one is clipped. */
  readonly base: PreparedLayer | null;
}

/** Whether a layer needs a mask rendered: it acts, or layers that act are clipped to it. */
function needsPixels(node: ResolvedLayer, above: readonly ResolvedLayer[]): boolean {
  if (acts(node)) return true;
  if (!node.layer.on) return false;
  for (const next of above) {
    if (next.layer.clip !== true) return false;
    if (acts(next)) return true;
  }
  return false;
}

/**
 * Calls `each` for every layer whose pixels are needed, the groups before the layers in them.
 * @param each also gets the place, in the outermost list, of the layer that it is or is in
 */
export function forEachNeeded(nodes: readonly ResolvedLayer[], each: (node: ResolvedLayer, top: number) => void): void {
  const visit = (list: readonly ResolvedLayer[], top: number | null): void => {
    for (const [i, node] of list.entries()) {
      if (!needsPixels(node, list.slice(i + 1))) continue;
      each(node, top ?? i);
      visit(showing(node), top ?? i);
    }
  };
  visit(nodes, null);
}

/** Brings layers and their pixels together; layers that cannot act are left out. */
export function prepare(nodes: readonly ResolvedLayer[], area: Rect, pixelsOf: (node: ResolvedLayer) => LayerPixels): PreparedLayer[] {
  const prepared: PreparedLayer[] = [];
  let base: PreparedLayer | null = null;
  let baseIsOff = false;
  for (const [i, node] of nodes.entries()) {
    const clipped = node.layer.clip === true && i > 0;
    if (!clipped) baseIsOff = !node.layer.on;
    else if (baseIsOff) continue;
    const needed = needsPixels(node, nodes.slice(i + 1));
    if (!needed && clipped) continue;
    const { mask, source, filtered } = needed ? pixelsOf(node) : NO_PIXELS;
    const ready: PreparedLayer = {
      layer: node.layer,
      top: i,
      area,
      mask,
      source,
      filtered,
      layers: needed ? prepare(showing(node), area, pixelsOf) : [],
      base: clipped ? base : null,
    };
    if (!clipped) base = ready;
    if (acts(node)) prepared.push(ready);
  }
  return prepared;
}

/** Whether a layer is an adjustment that looks at what surrounds a pixel. */
export const isFilter = ({ layer: { what } }: ResolvedLayer, scale: Scale): boolean => filterReach(what, scale) > 0;

/** How far an adjustment looks around a pixel, in pixels at the scale in work; 0 for other content. */
export const filterReach = (what: Content, scale: Scale): number => (isSource(what) || 'layers' in what ? 0 : reachOfFilter(what, scale));

const NONE: ReadonlySet<string> = new Set();

/**
 * How many pixels around a region its layers must be rendered, for those among them that look at what surrounds a pixel.
 * @param known layers of which it is known already what they made
 */
export function filtersReach(document: UmboDocument, scale: Scale, known = NONE): number {
  let sum = 0;
  forEachNeeded(resolveLayers(document), ({ layer: { id, what } }) => (sum += known.has(id) ? 0 : filterReach(what, scale)));
  return sum;
}

/**
 * What has to be loaded before a document can be rendered, each once.
 * @param viewed regions and readings whose masks are looked at: by themselves they are not needed
 */
export function picturesNeeded(document: UmboDocument, viewed: (ownerId: string) => boolean = () => false): PictureNeed[] {
  const needs = new Map<string, PictureNeed>();
  const note = (need: Need): void => {
    if (isPictureNeed(need)) needs.set(keyOf(need), need);
  };
  // Masks also of layers that do not act: they can be looked at.
  const beside = new Set([...(document.regions ?? []), ...areaReadings(document)].map(({ id }) => id));
  const visit = ({ layer: { id }, where, layers }: ResolvedLayer): void => {
    if (!beside.has(id) || viewed(id)) maskNeeds(where).forEach(note);
    layers.forEach(visit);
  };
  const roots = resolveLayers(document);
  roots.forEach(visit);
  forEachNeeded(roots, ({ layer: { what } }) => contentKind(what)?.needs?.(what.settings).forEach(note));
  return [...needs.values()];
}

/** Makes of a picture what an adjustment makes of it with what surrounds each pixel, in place. */
export function applyFilter(what: Content, picture: Raster, scale: Scale): void {
  if (!isSource(what) && !('layers' in what)) adjustment(what.kind).filter?.apply(what.settings, picture, scale);
}
