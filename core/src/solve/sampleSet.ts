/**
 * Some pixels of a reading, taken out of the picture with the masks of the layers that lie over them: what layers make of them is found
 * again and again in a fraction of a millisecond.
 */
import { spaceOf } from '../colour/spaces.ts';
import { adjustment } from '../adjust/registry.ts';
import { isSource, sourceKind, type SourceContent } from '../content/registry.ts';
import { wholeOf, type Rect, type Scale } from '../base/geometry.ts';
import { createOwnRaster, type SourceRaster } from '../base/sourceRaster.ts';
import { createPlanes, quantise, readRaster, type Planes } from '../base/planes.ts';
import { rgbToLab, type Lab } from '../colour/lab.ts';
import type { Colour } from '../colour/colour.ts';
import type { Reading } from '../document/reading.ts';
import { resolveLayers, type ResolvedLayer } from '../document/resolve.ts';
import { childrenOf, eachLayer } from '../document/tree.ts';
import type { Content, Layer, UmboDocument } from '../document/types.ts';
import { findPixels } from '../render/backdrop.ts';
import { applyLayers, createWorkspace, easeStack, type Workspace } from '../render/layers.ts';
import { filterReach, forEachNeeded, NO_PIXELS, prepare, type LayerPixels } from '../render/prepare.ts';
import { samplesOf, type ReadingPlace } from './place.ts';
import { readingWeight } from './read.ts';

export interface SampleSet {
  readonly scale: Scale;
  readonly n: number;
  /** The outermost layer from which on layers are applied. */
  readonly from: string;
  readonly photograph: Planes;
  readonly below: Planes;
  /** The picture below the layer that is solved for, as it is now. */
  readonly input: Planes;
  /** How much each pixel counts; together 1. */
  readonly share: Float32Array;
  readonly pixels: ReadonlyMap<string, LayerPixels>;
}

/** Whether what an adjustment does to a pixel depends on where that is: of such layers a strip knows nothing. */
const looksAround = ({ what }: Layer, scale: Scale): boolean =>
  !('layers' in what) && !isSource(what) && (filterReach(what, scale) > 0 || adjustment(what.kind).placed === true);

/** Whether a layer brings other colours to other places, such as a gradient: in a strip it is a picture of its own. */
const isPlaced = (what: Content): what is SourceContent =>
  isSource(what) && !sourceKind(what.kind).raster && sourceKind(what.kind).byColour?.(what.settings) !== true;

/** Content that shows the picture of its own that it is given. */
const PICTURE: Content = { kind: 'paint', settings: { strokes: [] } };

/** The edit as a strip knows it: without the layers of which it knows nothing. */
export function pointwise(document: UmboDocument, scale: Scale): UmboDocument {
  const visit = (layer: Layer): Layer => {
    if (looksAround(layer, scale)) return { ...layer, on: false };
    if (isPlaced(layer.what)) return { ...layer, what: PICTURE };
    return childrenOf(layer).length > 0 ? ({ ...layer, what: { ...layer.what, layers: childrenOf(layer).map(visit) } } as Layer) : layer;
  };
  return { ...document, layers: document.layers.map(visit) };
}

/** The outermost layer that a layer is in, and below it those that it is clipped to. */
function beginsAt({ layers }: UmboDocument, layerId: string): string {
  let top = layers.findIndex((layer) => [...eachLayer([layer])].some(({ id }) => id === layerId));
  while (top > 0 && layers[top]!.clip === true) top--;
  return layers[top]!.id;
}

/**
 * @param document in which the layer acts, so that its mask, and those of the groups that it is in, are found
 * @param layerId the layer that is solved for
 * @returns null where nothing of the reading lies on the photograph
 */
export function sampleSetOf(document: UmboDocument, layerId: string, reading: Reading, place: ReadingPlace): SampleSet | null {
  const { scale, photograph, pictures } = place;
  const weight = readingWeight(document, reading, place);
  const chosen = samplesOf(place.area, weight);
  if (chosen.length === 0) return null;
  const finder = findPixels(document, scale, place.area, photograph, pictures, layerId);
  const { area } = finder;
  const n = chosen.length;
  const at = Int32Array.from(chosen, (i) => {
    const [x, y] = [place.area.x + (i % place.area.width), place.area.y + Math.floor(i / place.area.width)];
    return (y - area.y) * area.width + x - area.x;
  });
  const share = Float32Array.from(chosen, (i) => (weight ? weight[i]! : 65535));
  const sum = share.reduce((a, b) => a + b, 0);
  for (let i = 0; i < n; i++) share[i] = share[i]! / sum;
  const taken = (planes: Planes): Planes => {
    const out = createPlanes(n);
    for (const plane of ['r', 'g', 'b'] as const) for (let i = 0; i < n; i++) out[plane][i] = planes[plane][at[i]!]!;
    return out;
  };
  const pixels = new Map<string, LayerPixels>();
  const ownOf = ({ layer: { what } }: ResolvedLayer, own: SourceRaster | null): SourceRaster | null => {
    if (isPlaced(what)) return drawnAt(what, scale, chosen, place.area);
    const strip = own && createOwnRaster(wholeOf({ width: n, height: 1 }));
    if (own && strip) for (const plane of ['r', 'g', 'b', 'a'] as const) for (let i = 0; i < n; i++) strip[plane][i] = own[plane][at[i]!]!;
    return strip;
  };
  forEachNeeded(resolveLayers(document), (node) => {
    if (looksAround(node.layer, scale)) return;
    const { mask, source } = finder.pixelsOf(node);
    pixels.set(node.layer.id, { mask: mask && Uint16Array.from(at, (k) => mask[k]!), source: ownOf(node, source), filtered: null });
  });
  const whole = createPlanes(area.width * area.height);
  readRaster(photograph, area, whole);
  const from = beginsAt(document, layerId);
  // In this order: the finder goes up from what it found last.
  const below = taken(finder.below(from));
  const input = taken(finder.below(layerId));
  return { scale, n, from, photograph: taken(whole), below, input, share, pixels };
}

/** What a source draws at single pixels of a place. */
function drawnAt({ kind, settings }: SourceContent, scale: Scale, chosen: readonly number[], { x, y, width }: Rect): SourceRaster {
  const out = createOwnRaster(wholeOf({ width: chosen.length, height: 1 }));
  const [below, own, cover] = [createPlanes(1), createPlanes(1), new Float32Array(1)];
  for (const [k, i] of chosen.entries()) {
    const tile = { x: x + (i % width), y: y + Math.floor(i / width), width: 1, height: 1 };
    sourceKind(kind).draw(settings, { scale, space: spaceOf(scale), tile, raster: null }, below, own, cover);
    for (const plane of ['r', 'g', 'b'] as const) out[plane][k] = quantise(own[plane][0]!, 65535);
    out.a[k] = quantise(cover[0]!, 65535);
  }
  return out;
}

const meanOf = ({ n, share }: SampleSet, { r, g, b }: Planes): Colour => {
  const sum: Colour = [0, 0, 0];
  // Not held within 0..1: a search would not feel what turns a channel that is at its end.
  for (let i = 0; i < n; i++) {
    sum[0] += share[i]! * r[i]!;
    sum[1] += share[i]! * g[i]!;
    sum[2] += share[i]! * b[i]!;
  }
  return sum;
};

/** The mean colour that a layer begins from. */
export const inputOf = (strip: SampleSet): Colour => meanOf(strip, strip.input);

let work: Workspace | null = null;

/** What the layers of an edit make of a strip. @param document from which those that look around are left out, see {@link pointwise} */
function renderStrip(document: UmboDocument, strip: SampleSet): Planes {
  const { scale, n, from, below, photograph, pixels } = strip;
  work ??= createWorkspace();
  const area = wholeOf({ width: n, height: 1 });
  const top = document.layers.findIndex(({ id }) => id === from);
  const out = { r: below.r.slice(), g: below.g.slice(), b: below.b.slice() };
  const nodes = resolveLayers(document).slice(top, document.layers.length);
  applyLayers(
    prepare(nodes, area, ({ layer }) => pixels.get(layer.id) ?? NO_PIXELS),
    area,
    out,
    work,
    scale,
  );
  const { strength = 1 } = document;
  if (strength < 1) easeStack(strength, photograph, out, n);
  return out;
}

/** The mean of a strip after all layers, as CIELAB. */
export function labOfSamples(document: UmboDocument, strip: SampleSet): Lab {
  return rgbToLab(spaceOf(strip.scale), ...meanOf(strip, renderStrip(document, strip)));
}
