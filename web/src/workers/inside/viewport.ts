/** The part of the picture that is on the stage, at the scale of the stage, and what is known about it. */
import {
  contains,
  createOwnRaster,
  createRaster,
  expand,
  intersect,
  isEmpty,
  keyOf,
  stretchArea,
  stretchOf,
  union,
  wholeOf,
  type Framing,
  type Need,
  type SourceRaster,
  type PictureNeed,
  type Planes,
  type Raster,
  type Rect,
  type Scale,
  type Size,
} from '@umbo/core/base';
import { type Colour, spaceOf } from '@umbo/core/colour';
import { photographArea, sizeAt } from '@umbo/core/geometry';
import { isSource, sourceKind, type SourceContent } from '@umbo/core/content';
import {
  contentKind,
  findLayer,
  findResolved,
  resolvedBackdrop,
  resolveLayers,
  stackBackdrop,
  type Content,
  type ResolvedLayer,
  type UmboDocument,
} from '@umbo/core/document';
import { coversAll, maskChange, maskNeeds, readsLayers, readsOwn, type Mask } from '@umbo/core/mask';
import { allLookSame, createWorkspace, forEachNeeded, isFilter, looksSame, prepare, renderTiles, type Workspace } from '@umbo/core/render';
import type { LayerJob, Proof, SharedViewport, TileJob, View } from '../protocol';

/** A hundred masked layers on a stage of two megapixels. */
const BUDGET = 400e6;

/** Frames are larger than what is seen, so that small moves need no rendering. */
const MARGIN = 64;

export interface Viewport extends SharedViewport {
  masks: Map<string, { values: Uint16Array; of: Mask; below: readonly ResolvedLayer[] | null; own: object | null }>;
  owns: Map<string, { raster: SourceRaster; of: SourceContent['settings'] }>;
  /** What filters made, of which settings and layers below. */
  filtered: Map<string, { raster: Raster; of: Content['settings'] | null; below: readonly ResolvedLayer[] | null }>;
  /** The picture below one of them; null while there are none. */
  below16: { raster: Raster; id: string; of: readonly ResolvedLayer[] } | null;
  /** What it is shown through. */
  proof: Proof | null;
  /** What is in `rgba`; null before the first rendering. */
  rendered: { layers: readonly ResolvedLayer[]; strength: number } | null;
  /** The layers below the picture kept in `below`; null when nothing is kept. */
  kept: readonly ResolvedLayer[] | null;
  /** The edit that is in `before`. */
  beforeOf: UmboDocument | null;
  /** Bytes that masks and rasters of layers may take. What lies below the picture in `below` is forgotten beyond that. */
  budget: number;
}

/** The picture's size on a stage of this zoom: never more pixels than the photograph has. */
export function pictureSize(full: Size, zoom: number): Size {
  const scale = Math.min(1, zoom);
  return { width: Math.max(1, Math.round(full.width * scale)), height: Math.max(1, Math.round(full.height * scale)) };
}

/** The part of the picture that the stage shows, in pixels of the picture at the size in work. */
export function seenOfPicture(scale: Scale, { x, y, zoom }: View, stage: Size): Rect {
  const perPixel = (zoom * scale.full.width) / scale.picture.width;
  const [left, top] = [Math.floor(-x / perPixel), Math.floor(-y / perPixel)];
  const [right, bottom] = [Math.ceil((stage.width - x) / perPixel), Math.ceil((stage.height - y) / perPixel)];
  return intersect({ x: left, y: top, width: right - left, height: bottom - top }, wholeOf(sizeAt(scale)));
}

/** The part of the photograph that what is seen is made of, in pixels of the photograph at the size in work. */
export function visibleArea(picture: Size, full: Size, view: View, stage: Size): Rect {
  const scale = { picture, full, ...(view.framing && { framing: view.framing }) };
  const seen = seenOfPicture(scale, view, stage);
  return isEmpty(seen) ? seen : photographArea(scale, seen);
}

/** Whether a viewport still serves a view. @param framing of the edit, where what it does goes by that */
export function serves(viewport: Viewport, picture: Size, visible: Rect, reach: number, around: number, framing?: Framing | null): boolean {
  if (framing !== undefined && framing !== (viewport.scale.framing ?? null)) return false;
  if (viewport.scale.picture.width !== picture.width || viewport.scale.picture.height !== picture.height) return false;
  const whole = wholeOf(picture);
  return (
    contains(viewport.area, intersect(expand(visible, around), whole)) &&
    contains(viewport.source.area, intersect(expand(viewport.area, reach), whole))
  );
}

/** Where the picture lies on the stage: its top left corner, and how many of the stage's pixels one of its pixels takes. */
export function placement(viewport: Viewport, view: View, full: Size): { x: number; y: number; perPixel: number; exact: boolean } {
  const perPixel = (view.zoom * full.width) / viewport.scale.picture.width;
  // A viewport of this very zoom lies on whole device pixels: one of its pixels is one of the stage's.
  const exact = view.zoom <= 1 && Math.round(full.width * view.zoom) === viewport.scale.picture.width;
  return exact ? { x: Math.round(view.x), y: Math.round(view.y), perPixel: 1, exact } : { x: view.x, y: view.y, perPixel, exact };
}

/** In which space a viewport is shown, and through which proof. */
export interface Shown {
  display: PredefinedColorSpace;
  proof: Proof | null;
}

/**
 * @param reach how far around the viewport the photograph is looked at
 * @param around how much of the viewport beyond what is seen its layers need, to come out right where it is seen
 */
export function createViewport(
  scale: Scale,
  visible: Rect,
  reach: number,
  around: number,
  { display, proof }: Shown = { display: 'srgb', proof: null },
  budget = BUDGET,
): Viewport {
  const whole = wholeOf(scale.picture);
  const area = intersect(expand(visible, Math.ceil(around / MARGIN) * MARGIN + MARGIN), whole);
  const n = area.width * area.height;
  const floats = (): Float32Array => new Float32Array(new SharedArrayBuffer(n * 4));
  return {
    scale,
    area,
    // Room for masks that grow a little: a feather being dragged does not begin a new viewport at every step.
    source: createRaster(intersect(expand(area, Math.ceil(reach / MARGIN) * MARGIN + MARGIN), whole), true),
    display,
    rgba: new Uint8ClampedArray(new SharedArrayBuffer(n * 4)),
    result: spaceOf(scale).id === display && !proof ? null : createRaster(area, true),
    beyond: proof?.beyond ? new Uint16Array(new SharedArrayBuffer(n * 2)) : null,
    below: { r: floats(), g: floats(), b: floats() },
    before: new Uint8ClampedArray(new SharedArrayBuffer(n * 4)),
    masks: new Map(),
    owns: new Map(),
    filtered: new Map(),
    below16: null,
    proof,
    rendered: null,
    kept: null,
    beforeOf: null,
    budget,
  };
}

/** A channel of a finished pixel in the working space, 0..1. @param at of the viewport's pixels */
export const resultAt = ({ rgba, result }: SharedViewport, at: number, channel: 0 | 1 | 2): number =>
  result ? result[PLANES[channel]][at]! / 65535 : rgba[at * 4 + channel]! / 255;
const PLANES = ['r', 'g', 'b'] as const;

let work: Workspace | null = null;

/** The colour below a layer at one pixel, of the masks and rasters that the viewport holds; null where one of them is forgotten. */
export function backdropColour(viewport: Viewport, document: UmboDocument, id: string, pixel: Rect): Colour | null {
  let colour: Colour | null = null;
  renderBackdrop(viewport, document, id, pixel, (_, { r, g, b }) => (colour = [r[0]!, g[0]!, b[0]!]));
  return colour;
}

/** Renders the picture below a layer from what the viewport keeps. @returns false where not all of that is known */
export function renderBackdrop(
  viewport: Viewport,
  document: UmboDocument,
  id: string,
  area: Rect,
  emit: (tile: Rect, pixels: Planes) => void,
): boolean {
  let isKnown = true;
  forEachNeeded(resolveLayers(stackBackdrop(document, id)), (node) => {
    if (!coversAll(node.where) && !viewport.masks.has(node.layer.id)) isKnown = false;
  });
  if (!isKnown) return false;
  const layers = prepare(resolveLayers(stackBackdrop(document, id)), viewport.area, ({ layer }) => ({
    mask: viewport.masks.get(layer.id)?.values ?? null,
    source: viewport.owns.get(layer.id)?.raster ?? null,
    filtered: viewport.filtered.get(layer.id)?.raster ?? null,
  }));
  renderTiles(layers, viewport.scale, area, viewport.source, (work ??= createWorkspace()), emit);
  return true;
}

/** A filter that must be applied anew. */
export interface FilterJob {
  id: string;
  into: Raster;
  /** Where the picture below it goes, or is already. */
  below: Raster;
  belowIsThere: boolean;
}

export interface Update {
  job: RenderJob;
  /** In the order in which they act; each needs those before it. */
  filters: FilterJob[];
  changed: Rect;
}

/** The work of an update, step by step: a filter comes before what needs its results. */
export function jobsOf({ job, filters }: Update): TileJob[] {
  if (filters.length === 0) return [job];
  const { layers } = job;
  const jobs: TileJob[] = [{ type: 'pixels', layers }];
  for (const { id, below, belowIsThere, into } of filters) {
    if (!belowIsThere) jobs.push({ type: 'below', id, layers, into: below });
    jobs.push({ type: 'filter', id, from: below, into });
  }
  return [...jobs, { ...job, layers: layers.map((layer) => ({ ...layer, maskDirty: null, sourceDirty: null })) }];
}

type RenderJob = Extract<TileJob, { type: 'render' }>;
const NOWHERE: Rect = { x: 0, y: 0, width: 0, height: 0 };

/**
 * What must be rendered so that the viewport shows a document; null when it does already.
 * @param viewed the layer whose mask is looked at, whether it acts or not
 * @param edit all of what the document shows a part of: masks that look at what is below do not depend on what is looked at
 */
export function planUpdate(viewport: Viewport, document: UmboDocument, viewed: string | null, edit: UmboDocument): Update | null {
  const layers = resolveLayers(document);
  const { strength = 1 } = document;
  const jobs: LayerJob[] = [];
  let dirty: Rect = NOWHERE;
  /** The lowest layer of the outermost list with new pixels in it. */
  let lowestDirty = layers.length;
  const filters: FilterJob[] = [];
  const ready = readyBelow(viewport, layers);
  const addJob = (node: ResolvedLayer, top: number): void => {
    // What was forgotten of layers below the kept picture is not asked for.
    if (top < ready && !holds(viewport, node.layer.id)) return;
    const mask = coversAll(node.where) ? null : maskOf(viewport, node, edit);
    const own = ownOf(viewport, node);
    // Pixels of layers before it that are rendered anew may be below it.
    const filter = filterOf(viewport, layers, node, !isEmpty(dirty));
    if (filter?.dirty) filters.push(filter.job);
    jobs.push({
      id: node.layer.id,
      mask: mask?.pixels ?? null,
      maskDirty: mask?.dirty ?? null,
      source: own?.pixels ?? null,
      sourceDirty: own?.dirty ?? null,
      filtered: filter?.job.into ?? null,
    });
    for (const area of [mask?.dirty, own?.dirty, filter?.dirty ? viewport.area : null]) {
      if (!area) continue;
      dirty = union(dirty, area);
      lowestDirty = Math.min(lowestDirty, top);
    }
  };
  forEachNeeded(layers, addJob);
  if (viewed !== null && !jobs.some(({ id }) => id === viewed)) {
    const node = findResolved(layers, viewed);
    if (node) addJob(node, layers.length);
  }

  const before = viewport.rendered?.layers ?? null;
  let first = 0;
  while (before && first < layers.length && first < before.length && looksSame(before[first]!, layers[first]!, 'layers')) first++;
  const same = before !== null && first === layers.length && first === before.length && viewport.rendered!.strength === strength;
  if (same && isEmpty(dirty)) return null;

  // Where only masks or strokes changed, only the pixels under the change are rendered.
  const onlyPixels =
    before !== null &&
    before.length === layers.length &&
    viewport.rendered!.strength === strength &&
    layers.every((layer, i) => looksSame(before[i]!, layer, 'layers'));
  const rect = onlyPixels ? dirty : viewport.area;
  first = Math.min(first, lowestDirty);

  const kept =
    viewport.kept && viewport.kept.length <= first && viewport.kept.every((layer, i) => looksSame(layer, layers[i]!, 'pixels'))
      ? viewport.kept.length
      : 0;
  if (kept === 0) viewport.kept = null;
  const whole = rect === viewport.area || (rect.width === viewport.area.width && rect.height === viewport.area.height);
  const store = first > kept && first < layers.length && before !== null;
  return {
    job: { type: 'render', layers: jobs, rect: store && !whole ? viewport.area : rect, from: kept, storeAt: store ? first : -1 },
    filters,
    changed: rect,
  };
}

/** Forgets what was drawn without a picture that has come in now, or with a coarser one, and what stands on that. @returns whether anything was */
export function forgetPictured(viewport: Viewport, picture: PictureNeed): boolean {
  const key = keyOf(picture);
  const shows = (needs: readonly Need[] = []): boolean => needs.some((need) => keyOf(need) === key);
  let found = false;
  for (const [id, { of }] of viewport.masks) if (shows(maskNeeds(of))) found = viewport.masks.delete(id);
  for (const id of viewport.owns.keys()) {
    const what = viewport.rendered && findResolved(viewport.rendered.layers, id)?.layer.what;
    if (!what || shows(contentKind(what)?.needs?.(what.settings))) found = viewport.owns.delete(id);
  }
  if (!found) return false;
  for (const [id, { below }] of viewport.masks) if (below) viewport.masks.delete(id);
  viewport.filtered.clear();
  viewport.kept = null;
  return true;
}

const holds = ({ masks, owns, filtered }: Viewport, id: string): boolean => masks.has(id) || owns.has(id) || filtered.has(id);

/** How many of the outermost layers are in the kept picture and need nothing of their own, because none above looks around. */
function readyBelow(viewport: Viewport, layers: readonly ResolvedLayer[]): number {
  const { kept } = viewport;
  if (!kept || kept.length > layers.length || !kept.every((layer, i) => looksSame(layer, layers[i]!, 'pixels'))) return 0;
  let looks = false;
  forEachNeeded(layers, (node, top) => (looks ||= top >= kept.length && isFilter(node, viewport.scale)));
  // A layer that is clipped needs the one that it is clipped to.
  let ready = looks ? 0 : kept.length;
  while (ready > 0 && layers[ready]?.layer.clip === true) ready--;
  return ready;
}

/** Bytes that a layer keeps for every pixel of a viewport. */
function bytesOf(node: ResolvedLayer, scale: Scale): number {
  const { what } = node.layer;
  const raster = isSource(what) && sourceKind(what.kind).raster ? 8 : 0;
  return (coversAll(node.where) ? 0 : 2) + raster + (isFilter(node, scale) ? 6 : 0);
}

/**
 * The steps in which a document is brought into a viewport that keeps nothing of it, so that what its layers keep at once stays within the
 * budget: parts of the stack from the bottom up, the last of them all of it. One step where that fits.
 */
export function portionsOf(viewport: Viewport, document: UmboDocument): UmboDocument[] {
  const layers = resolveLayers(document);
  const ready = readyBelow(viewport, layers);
  const pixels = viewport.area.width * viewport.area.height;
  const bytes = layers.map(() => 0);
  forEachNeeded(layers, (node, top) => {
    if (top >= ready && !holds(viewport, node.layer.id)) bytes[top]! += bytesOf(node, viewport.scale) * pixels;
  });
  const portions: UmboDocument[] = [];
  let sum = 0;
  for (const [i, more] of bytes.entries()) {
    if (sum > 0 && sum + more > viewport.budget) {
      portions.push({ ...document, layers: document.layers.slice(0, i) });
      sum = 0;
    }
    sum += more;
  }
  return [...portions, document];
}

/** Forgets what layers below the kept picture hold until the viewport is within its budget. @param viewed the layer whose mask is looked at */
export function forgetBackdrops(viewport: Viewport, document: UmboDocument, viewed: string | null): void {
  const layers = resolveLayers(document);
  const ready = readyBelow(viewport, layers);
  const pixels = viewport.area.width * viewport.area.height;
  let held = 2 * viewport.masks.size + 8 * viewport.owns.size + 6 * viewport.filtered.size;
  forEachNeeded(layers, (node, top) => {
    const { id } = node.layer;
    if (top >= ready || held * pixels <= viewport.budget || id === viewed || !holds(viewport, id)) return;
    held -= bytesOf(node, viewport.scale);
    for (const kept of [viewport.masks, viewport.owns, viewport.filtered]) kept.delete(id);
  });
}

/** What the picture below depends on, for a mask that looks at it. */
const belowOf = ({ where, owner }: ResolvedLayer, edit: UmboDocument): readonly ResolvedLayer[] | null =>
  readsLayers(where) ? resolvedBackdrop(resolveLayers(edit), owner) : null;
/** What the layer itself shows, for a mask that looks at that. */
const shownOf = ({ where, owner }: ResolvedLayer, edit: UmboDocument): object | null =>
  readsOwn(where) ? (findLayer(edit, owner)?.what ?? null) : null;
const sameBelow = (a: readonly ResolvedLayer[] | null, b: readonly ResolvedLayer[] | null): boolean =>
  a === b || (a !== null && b !== null && allLookSame(a, b));

function maskOf(viewport: Viewport, node: ResolvedLayer, edit: UmboDocument): { pixels: Uint16Array; dirty: Rect | null } {
  const { layer, where } = node;
  const [below, own] = [belowOf(node, edit), shownOf(node, edit)];
  const known = viewport.masks.get(layer.id);
  if (known) {
    const dirty =
      known.own === own && sameBelow(known.below, below)
        ? intersect(maskChange(known.of, where, viewport.scale), viewport.area)
        : viewport.area;
    return { pixels: known.values, dirty: isEmpty(dirty) ? null : dirty };
  }
  const values = new Uint16Array(new SharedArrayBuffer(viewport.area.width * viewport.area.height * 2));
  viewport.masks.set(layer.id, { values, of: where, below, own });
  return { pixels: values, dirty: viewport.area };
}

function ownOf(viewport: Viewport, { layer: { id, what } }: ResolvedLayer): { pixels: SourceRaster; dirty: Rect | null } | null {
  if (!isSource(what)) return null;
  const { raster } = sourceKind(what.kind);
  if (!raster) return null;
  const known = viewport.owns.get(id);
  if (known) {
    const changed = known.of === what.settings ? NOWHERE : raster.changedArea(known.of, what.settings);
    const dirty = changed ? intersect(expand(stretchArea(stretchOf(viewport.scale).toPicture, changed), 1), viewport.area) : viewport.area;
    return { pixels: known.raster, dirty: isEmpty(changed ?? viewport.area) || isEmpty(dirty) ? null : dirty };
  }
  const pixels = createOwnRaster(viewport.area, true);
  viewport.owns.set(id, { raster: pixels, of: what.settings });
  return { pixels, dirty: viewport.area };
}

function filterOf(
  viewport: Viewport,
  roots: readonly ResolvedLayer[],
  node: ResolvedLayer,
  newBelow: boolean,
): { job: FilterJob; dirty: boolean } | null {
  if (!isFilter(node, viewport.scale)) return null;
  const { id, what } = node.layer;
  const below = resolvedBackdrop(roots, id);
  let known = viewport.filtered.get(id);
  if (!known) viewport.filtered.set(id, (known = { raster: createRaster(viewport.area, true), of: null, below: null }));
  const dirty = newBelow || known.of !== what.settings || !sameBelow(known.below, below);
  viewport.below16 ??= { raster: createRaster(viewport.area, true), id: '', of: [] };
  const { raster, id: held, of } = viewport.below16;
  const belowIsThere = !newBelow && held === id && allLookSame(of, below);
  if (dirty) viewport.below16 = { raster, id, of: below };
  return { job: { id, into: known.raster, below: raster, belowIsThere }, dirty };
}

/** Takes note of a finished update to what the document was when it was planned. */
export function noteUpdate(viewport: Viewport, document: UmboDocument, job: RenderJob, edit: UmboDocument): void {
  const layers = resolveLayers(document);
  viewport.rendered = { layers, strength: document.strength ?? 1 };
  if (job.storeAt >= 0) viewport.kept = layers.slice(0, job.storeAt);
  const present = new Map(job.layers.map((layer) => [layer.id, layer]));
  for (const id of viewport.masks.keys()) if (!present.get(id)?.mask) viewport.masks.delete(id);
  for (const id of viewport.owns.keys()) if (!present.get(id)?.source) viewport.owns.delete(id);
  for (const id of viewport.filtered.keys()) if (!present.get(id)?.filtered) viewport.filtered.delete(id);
  for (const id of present.keys()) {
    const node = findResolved(layers, id)!;
    const mask = viewport.masks.get(id);
    if (mask) Object.assign(mask, { of: node.where, below: belowOf(node, edit), own: shownOf(node, edit) });
    const own = viewport.owns.get(id);
    if (own && isSource(node.layer.what)) own.of = node.layer.what.settings;
    const filtered = viewport.filtered.get(id);
    if (filtered) Object.assign(filtered, { of: node.layer.what.settings, below: resolvedBackdrop(layers, id) });
  }
}
