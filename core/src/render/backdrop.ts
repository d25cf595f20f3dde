/**
 * The pixels that layers need before they can act, found once each from the bottom up: a mask that looks at the picture below its layer
 * gets it as the layers below have made it so far. What that costs grows with the number of layers, not with the ways through them.
 */
import { isSource, sourceKind } from '../content/registry.ts';
import { findResolved, peekAt, resolvedBackdrop, resolveLayers, stackBackdrop, type ResolvedLayer } from '../document/resolve.ts';
import { eachLayer, findLayer } from '../document/tree.ts';
import type { Layer, UmboDocument } from '../document/types.ts';
import { coversAll, maskReach, readsLayers, readsOwn, renderMask, viewOfPhotograph } from '../mask/mask.ts';
import { expand, intersect, wholeOf, type Rect, type Scale, type Framing } from '../base/geometry.ts';
import { allLookSame } from './looksSame.ts';
import { applyLayers, createWorkspace, renderTiles } from './layers.ts';
import { OVERVIEW } from '../base/need.ts';
import { sourcePicture } from './sourcePicture.ts';
import type { Pictures } from '../base/pictures.ts';
import { createPlanes, createRaster, readRaster, writeRaster, type Planes, type Raster } from '../base/planes.ts';
import { forEachNeeded, applyFilter, isFilter, prepare, filtersReach, type LayerPixels, type PreparedLayer } from './prepare.ts';

/** The document that shows what is below a layer. */
const backdropDocument = (document: UmboDocument, layerId: string): UmboDocument => ({
  ...peekAt(document, { solo: null, upTo: null, below: layerId }),
  strength: 1,
});

/** Masks that lead back to layers above them are followed this often; then they look at the photograph. */
const ROUNDS = 2;

/** The layers whose masks look at what is below, by the layers that own the masks; and those whose masks lead back to one above. */
interface Readers {
  nodes: ResolvedLayer[];
  loops: Set<string>;
}

const readersSeen = new WeakMap<UmboDocument, Map<string | null, Readers>>();

/** @param viewed a layer whose mask is wanted, also when it does not act */
function readersOf(document: UmboDocument, viewed: string | null): Readers {
  let seen = readersSeen.get(document);
  if (!seen) readersSeen.set(document, (seen = new Map<string | null, Readers>()));
  let readers = seen.get(viewed);
  if (!readers) seen.set(viewed, (readers = findReaders(document, viewed)));
  return readers;
}

function findReaders(document: UmboDocument, viewed: string | null): Readers {
  const roots = resolveLayers(document);
  const order = new Map(Array.from(eachLayer(document.layers), ({ id }, i) => [id, i]));
  const found = new Map<string, ResolvedLayer>();
  const note = (node: ResolvedLayer): void => {
    if (found.has(node.layer.id) || !readsLayers(node.where)) return;
    found.set(node.layer.id, node);
    // Below it, other alternatives may show than in the edit itself.
    forEachNeeded(resolveLayers(backdropDocument(document, node.owner)), note);
  };
  forEachNeeded(roots, note);
  const looked = viewed === null ? undefined : findResolved(roots, viewed);
  if (looked) note(looked);
  const nodes = [...found.values()];
  const loops = new Set(nodes.filter(({ layer, owner }) => order.get(owner)! > order.get(layer.id)!).map(({ owner }) => owner));
  return { nodes, loops };
}

interface Looked {
  /** A layer whose mask is looked at, also when it does not act. */
  readonly viewed?: string | null;
  /** Layers of which it is known already what they made of what surrounds a pixel. */
  readonly known?: ReadonlySet<string>;
  /** Layers below which is looked at already. */
  readonly within?: readonly string[];
}

const NONE: ReadonlySet<string> = new Set();

/** How far the margins of masks that look at what is below add up. */
const readingReach = ({ nodes }: Readers, scale: Scale): number => nodes.reduce((sum, { where }) => sum + maskReach(where, scale), 0);

/** How many pixels around a region the photograph must be known for its layers. */
export function documentReach(document: UmboDocument, scale: Scale, { viewed = null, known = NONE, within = [] }: Looked = {}): number {
  let reach = 0;
  const count = ({ where }: ResolvedLayer): void => void (reach = Math.max(reach, maskReach(where, scale)));
  const roots = resolveLayers(document);
  forEachNeeded(roots, count);
  const looked = viewed === null ? undefined : findResolved(roots, viewed);
  if (looked) count(looked);
  const readers = readersOf(document, viewed);
  readers.nodes.forEach(count);
  let back = 0;
  for (const owner of readers.loops)
    if (!within.includes(owner) && within.length < ROUNDS)
      back = Math.max(back, documentReach(backdropDocument(document, owner), scale, { known, within: [...within, owner] }));
  return reach + readingReach(readers, scale) + back + filtersReach(document, scale, known);
}

/** The area of the photograph that rendering a region reads. @param known layers of which it is known already what they made */
export function neededArea(document: UmboDocument, scale: Scale, region: Rect, known = NONE): Rect {
  return intersect(expand(region, documentReach(document, scale, { known })), wholeOf(scale.picture));
}

/** What layers need to act on a region, found when it is asked for. */
export interface Finder {
  /** What everything covers: the region, and around it what other layers need. It is right in the region. */
  readonly area: Rect;
  readonly pixelsOf: (node: ResolvedLayer) => LayerPixels;
  /** The picture below a layer; until the next is asked for. */
  readonly below: (layerId: string) => Planes;
}

/** Pixels of an area in a wanted one. Further out than anything is found the photograph stands in; what comes of that lies outside the region. */
function spread(planes: Planes, area: Rect, photograph: Raster, wanted: Rect): Planes {
  const out = createPlanes(wanted.width * wanted.height);
  readRaster(photograph, wanted, out);
  copyArea(planes, area, out, wanted);
  return out;
}

/**
 * @param photograph the photograph at this scale, covering the region and {@link documentReach} around it, within the picture
 * @param viewed a layer whose mask is wanted, also when it does not act
 */
export function findPixels(
  document: UmboDocument,
  scale: Scale,
  region: Rect,
  photograph: Raster,
  pictures: Pictures,
  viewed: string | null = null,
): Finder {
  const { filtered: made, within = [] } = pictures;
  const readers = readersOf(document, viewed);
  const margin = readingReach(readers, scale) + filtersReach(document, scale, made?.ids);
  const area = intersect(expand(region, margin), wholeOf(scale.picture));
  const known = new Map<string, LayerPixels>();
  const work = createWorkspace();
  const apply = (layers: readonly PreparedLayer[], planes: Planes): Planes => {
    applyLayers(layers, area, planes, work, scale);
    return planes;
  };
  const photographHere = (): Planes => {
    const planes = createPlanes(area.width * area.height);
    readRaster(photograph, area, planes);
    return planes;
  };

  /** The picture below one of the outermost layers; the pictures below further ones begin from it. */
  let running: { top: number; planes: Planes } | null = null;
  const below = (owner: string): Planes => {
    const shown = backdropDocument(document, owner);
    if (readers.loops.has(owner)) {
      // Something below leads back to it: found on its own, with masks that do so looking at the photograph.
      const inner = findPixels(shown, scale, area, photograph, { ...pictures, within: [...within, owner] });
      return apply(prepare(resolveLayers(shown), inner.area, inner.pixelsOf), photographHere());
    }
    const top = document.layers.findIndex((layer) => [...eachLayer([layer])].some(({ id }) => id === owner));
    const layers = prepare(resolveLayers(shown), area, pixelsOf);
    const from = running && running.top <= top ? running : { top: 0, planes: photographHere() };
    const planes = apply(
      layers.filter((layer) => layer.top >= from.top && layer.top < top),
      from.planes,
    );
    running = { top, planes };
    const partOfGroup = layers.filter((layer) => layer.top >= top);
    return partOfGroup.length === 0 ? planes : apply(partOfGroup, { r: planes.r.slice(), g: planes.g.slice(), b: planes.b.slice() });
  };

  /** All of the picture below a layer, on the overview. */
  let overviews: Finder | null = null;
  const overviewBelow = (owner: string): Raster => {
    const overview = pictures.find(OVERVIEW)!.level;
    const of = within.length === 0 ? resolvedBackdrop(resolveLayers(document), owner) : null;
    const there = of && kept.find((one) => one.photograph === overview && one.framing === scale.framing && allLookSame(one.of, of));
    if (there) return there.raster;
    const picture = { width: overview.area.width, height: overview.area.height };
    const isOverview = photograph === overview && sameRect(area, wholeOf(picture));
    overviews ??= isOverview
      ? { area, pixelsOf, below }
      : findPixels(document, { ...scale, picture }, wholeOf(picture), overview, { find: pictures.find, within });
    const raster = createRaster(wholeOf(picture));
    writeRaster(raster, raster.area, overviews.below(owner));
    if (of) keep({ of, photograph: overview, framing: scale.framing, raster });
    return raster;
  };

  const maskOf = ({ where, owner }: ResolvedLayer): Uint16Array | null => {
    if (coversAll(where)) return null;
    const looks = readsLayers(where) && !within.includes(owner) && !(readers.loops.has(owner) && within.length >= ROUNDS);
    if (!looks) return renderMask(where, scale, area, photograph, pictures);
    return renderMask(where, scale, area, photograph, {
      ...pictures,
      backdrop: { pixels: (wanted) => spread(below(owner), area, photograph, wanted), overview: () => overviewBelow(owner) },
      source: readsOwn(where) ? sourcePicture(findLayer(document, owner), scale, photograph, pictures.find) : null,
    });
  };
  const filter = (layer: Layer): Raster => {
    const picture = createRaster(area);
    const layers = prepare(resolveLayers(stackBackdrop(document, layer.id)), area, pixelsOf);
    renderTiles(layers, scale, area, photograph, work, (tile, pixels) => writeRaster(picture, tile, pixels));
    applyFilter(layer.what, picture, scale);
    return picture;
  };
  const pixelsOf = (node: ResolvedLayer): LayerPixels => {
    const { layer } = node;
    let pixels = known.get(layer.id);
    if (!pixels) {
      pixels = {
        mask: maskOf(node),
        source: isSource(layer.what)
          ? (sourceKind(layer.what.kind).raster?.render(layer.what.settings, viewOfPhotograph(scale, area, photograph, pictures.find)) ??
            null)
          : null,
        filtered: isFilter(node, scale) ? (made?.ids.has(layer.id) ? made.read(layer.id, area) : filter(layer)) : null,
      };
      known.set(layer.id, pixels);
    }
    return pixels;
  };
  return { area, pixelsOf, below };
}

/** The mask of a layer in a region. The photograph must cover what {@link documentReach} says with the layer viewed. */
export function findMask(
  document: UmboDocument,
  node: ResolvedLayer,
  scale: Scale,
  region: Rect,
  photograph: Raster,
  pictures: Pictures,
): Uint16Array {
  if (!readsLayers(node.where)) return renderMask(node.where, scale, region, photograph, pictures);
  const { area, pixelsOf } = findPixels(document, scale, region, photograph, pictures, node.layer.id);
  return cropMask(pixelsOf(node).mask!, area, region);
}

/** Part of a plane. */
export function cropMask(values: Uint16Array, area: Rect, part: Rect): Uint16Array {
  const out = new Uint16Array(part.width * part.height);
  for (let y = 0; y < part.height; y++) {
    const from = (part.y - area.y + y) * area.width + part.x - area.x;
    out.set(values.subarray(from, from + part.width), y * part.width);
  }
  return out;
}

/** Copies what two areas have in common. */
function copyArea(from: Planes, fromArea: Rect, to: Planes, toArea: Rect): void {
  const common = intersect(fromArea, toArea);
  for (const plane of ['r', 'g', 'b'] as const)
    for (let y = common.y; y < common.y + common.height; y++) {
      const at = (y - fromArea.y) * fromArea.width + common.x - fromArea.x;
      to[plane].set(from[plane].subarray(at, at + common.width), (y - toArea.y) * toArea.width + common.x - toArea.x);
    }
}

const sameRect = (a: Rect, b: Rect): boolean => a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height;

interface Kept {
  of: readonly ResolvedLayer[];
  photograph: Raster;
  framing: Framing | undefined;
  raster: Raster;
}
/** Overviews of what is below layers: the last few, each with the layers it came from. */
const kept: Kept[] = [];
/** Pixels of all of them together. */
const KEPT_PIXELS = 16e6;

function keep(one: Kept): void {
  kept.unshift(one);
  let pixels = 0;
  const fits = kept.findIndex(({ raster }) => (pixels += raster.r.length) > KEPT_PIXELS);
  if (fits > 0) kept.length = fits;
}
