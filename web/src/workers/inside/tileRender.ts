/** What a tile worker does with a job: pure calculation from shared memory to shared memory. */
import { reachOfFilter, type AdjustmentContent } from '@umbo/core/adjust';
import {
  createPlanes,
  createRaster,
  expand,
  intersect,
  isEmpty,
  readRaster,
  resample,
  union,
  writeRaster,
  type Pictures,
  type Rect,
} from '@umbo/core/base';
import { isSource, sourceKind } from '@umbo/core/content';
import { findLayer, resolveLayers, stackBackdrop, type Layer, type ResolvedLayer, type UmboDocument } from '@umbo/core/document';
import { readsLayers, renderMask, viewOfPhotograph } from '@umbo/core/mask';
import {
  applyLayer,
  createWorkspace,
  cropMask,
  easeStack,
  findPixels,
  applyFilter,
  forEachTile,
  NO_PIXELS,
  prepare,
  renderRegion,
  renderTiles,
  TILE,
  type LayerPixels,
  type PreparedLayer,
} from '@umbo/core/render';
import { paint, showing, writeBeyond } from './display';
import type { LayerJob, Proof, SharedViewport, TileJob } from '../protocol';

const work = createWorkspace();
const pixels = createPlanes(TILE.width * TILE.height);
const original = createPlanes(TILE.width * TILE.height);

/** Calls `each` for bands of `rect` until there are none left or the job is called off. */
function takeBands(control: Int32Array, rect: Rect, bandHeight: number, each: (band: Rect) => void): void {
  while (Atomics.load(control, 1) === 0) {
    const y = rect.y + Atomics.add(control, 0, 1) * bandHeight;
    if (y >= rect.y + rect.height) return;
    each({ x: rect.x, y, width: rect.width, height: Math.min(bandHeight, rect.y + rect.height - y) });
  }
}

function scaleSource({ source, scale }: SharedViewport, { level, levelSize }: Extract<TileJob, { type: 'source' }>, band: Rect): void {
  if (scale.picture.width !== levelSize.width || scale.picture.height !== levelSize.height) {
    resample(level, levelSize, scale.picture, band, source);
    return;
  }
  for (const plane of ['r', 'g', 'b'] as const)
    for (let y = band.y; y < band.y + band.height; y++) {
      const from = y * levelSize.width + band.x;
      source[plane].set(level[plane].subarray(from, from + band.width), (y - source.area.y) * source.area.width + band.x - source.area.x);
    }
}

/** Copies the rows of a part into a plane of the viewport's area. */
function putRows(values: Uint16Array, part: Rect, plane: Uint16Array, area: Rect): void {
  for (let y = 0; y < part.height; y++)
    plane.set(values.subarray(y * part.width, (y + 1) * part.width), (part.y - area.y + y) * area.width + part.x - area.x);
}

function renderPixels(
  viewport: SharedViewport,
  jobs: readonly LayerJob[],
  nodes: Map<string, ResolvedLayer>,
  band: Rect,
  { edit, pictures }: TileState,
): void {
  const inBand = (dirty: Rect | null): Rect | null => {
    const part = dirty && intersect(dirty, { ...band, x: viewport.area.x, width: viewport.area.width });
    return part && !isEmpty(part) ? part : null;
  };
  // Masks that look at what is below are found together, from the bottom up. One that is only looked at is the last of the jobs.
  const reading = jobs.filter(({ id, mask, maskDirty }) => mask && inBand(maskDirty) && readsLayers(nodes.get(id)!.where));
  const region = reading.reduce((sum, { maskDirty }) => union(sum, inBand(maskDirty)!), { ...band, width: 0, height: 0 });
  const finder = reading.length > 0 ? findPixels(edit, viewport.scale, region, viewport.source, pictures, reading.at(-1)!.id) : null;
  for (const { id, mask, maskDirty, source, sourceDirty } of jobs) {
    const node = nodes.get(id)!;
    const maskPart = mask && inBand(maskDirty);
    if (maskPart && finder && readsLayers(node.where)) {
      putRows(cropMask(finder.pixelsOf(node).mask!, finder.area, maskPart), maskPart, mask, viewport.area);
    } else if (maskPart)
      putRows(renderMask(node.where, viewport.scale, maskPart, viewport.source, pictures), maskPart, mask, viewport.area);
    const { what } = node.layer;
    const sourcePart = source && inBand(sourceDirty);
    if (!sourcePart || !isSource(what)) continue;
    const pixelsOfPart = sourceKind(what.kind).raster!.render(
      what.settings,
      viewOfPhotograph(viewport.scale, sourcePart, viewport.source, pictures.find),
    );
    for (const plane of ['r', 'g', 'b', 'a'] as const) putRows(pixelsOfPart[plane], sourcePart, source[plane], viewport.area);
  }
}

/** What the jobs hold of layers; nothing of the plain groups that stand in for those around a layer. */
function pixelsOf(layers: readonly LayerJob[]): (node: ResolvedLayer) => LayerPixels {
  const jobs = new Map(layers.map((layer) => [layer.id, layer]));
  return ({ layer: { id } }) => jobs.get(id) ?? NO_PIXELS;
}

function filterBand(
  { scale, area }: SharedViewport,
  what: Layer['what'],
  { from, into }: Extract<TileJob, { type: 'filter' }>,
  reach: number,
  band: Rect,
): void {
  const around = intersect(expand(band, reach), area);
  const picture = createRaster(around);
  for (const plane of ['r', 'g', 'b'] as const) {
    const first = (around.y - area.y) * area.width + around.x - area.x;
    // Bands and their surroundings are as wide as the viewport.
    picture[plane].set(from[plane].subarray(first, first + around.width * around.height));
  }
  applyFilter(what, picture, scale);
  for (const plane of ['r', 'g', 'b'] as const) {
    const first = (band.y - around.y) * around.width;
    putRows(picture[plane].subarray(first, first + band.width * band.height), band, into[plane], area);
  }
}

/** What a tile worker knows beside the job. */
export interface TileState {
  viewport: SharedViewport;
  proof: Proof | null;
  /** The edit, and as it is looked at: masks do not depend on what of it is looked at. */
  edit: UmboDocument;
  document: UmboDocument;
  pictures: Pictures;
}

function renderBand(
  state: TileState,
  job: Extract<TileJob, { type: 'render' }>,
  nodes: Map<string, ResolvedLayer>,
  layers: PreparedLayer[],
  skip: number,
  band: Rect,
): void {
  const { viewport, document } = state;
  renderPixels(viewport, job.layers, nodes, band, state);
  const { strength = 1 } = document;
  forEachTile(band, (tile) => {
    if (job.from > 0) copyTile(viewport, tile, 'read');
    else readRaster(viewport.source, tile, pixels);
    let stored = job.storeAt < 0;
    for (let i = skip; i < layers.length; i++) {
      if (!stored && layers[i]!.top >= job.storeAt) {
        copyTile(viewport, tile, 'write');
        stored = true;
      }
      applyLayer(layers[i]!, tile, pixels, null, work, viewport.scale);
    }
    if (!stored) copyTile(viewport, tile, 'write');
    if (strength < 1) {
      readRaster(viewport.source, tile, original);
      easeStack(strength, original, pixels, tile.width * tile.height);
    }
    if (viewport.result) writeRaster(viewport.result, tile, pixels);
    if (viewport.beyond && state.proof?.beyond) writeBeyond(viewport.beyond, viewport.area, tile, pixels, original, state.proof.beyond);
    paint(viewport.rgba, viewport.area, tile, pixels, showing(viewport, state.proof));
  });
}

function copyTile({ area, below }: SharedViewport, tile: Rect, direction: 'read' | 'write'): void {
  for (const plane of ['r', 'g', 'b'] as const)
    for (let y = 0; y < tile.height; y++) {
      const at = (tile.y - area.y + y) * area.width + tile.x - area.x;
      if (direction === 'read') pixels[plane].set(below[plane].subarray(at, at + tile.width), y * tile.width);
      else below[plane].set(pixels[plane].subarray(y * tile.width, (y + 1) * tile.width), at);
    }
}

/**
 * Takes bands of a job until there are none left or it is called off.
 * @param control shared by all workers on the job
 */
export function performTileJob(state: TileState, job: TileJob, control: Int32Array, bandHeight: number): void {
  const { viewport, document, pictures } = state;
  if (job.type === 'source') {
    takeBands(control, viewport.source.area, bandHeight, (band) => scaleSource(viewport, job, band));
    return;
  }
  if (job.type === 'before') {
    takeBands(control, viewport.area, bandHeight, (band) =>
      renderRegion(job.document, viewport.scale, band, viewport.source, pictures, (tile, rendered) =>
        paint(viewport.before, viewport.area, tile, rendered, showing(viewport, state.proof)),
      ),
    );
    return;
  }
  if (job.type === 'below') {
    const below = prepare(resolveLayers(stackBackdrop(document, job.id)), viewport.area, pixelsOf(job.layers));
    takeBands(control, viewport.area, bandHeight, (band) =>
      renderTiles(below, viewport.scale, band, viewport.source, work, (tile, rendered) => writeRaster(job.into, tile, rendered)),
    );
    return;
  }
  if (job.type === 'filter') {
    const { what } = findLayer(document, job.id)!;
    const reach = reachOfFilter(what as AdjustmentContent, viewport.scale);
    takeBands(control, viewport.area, bandHeight, (band) => filterBand(viewport, what, job, reach, band));
    return;
  }
  const roots = resolveLayers(document);
  const nodes = new Map<string, ResolvedLayer>();
  const note = (node: ResolvedLayer): void => {
    nodes.set(node.layer.id, node);
    node.layers.forEach(note);
  };
  roots.forEach(note);
  if (job.type === 'pixels') {
    takeBands(control, viewport.area, bandHeight, (band) => renderPixels(viewport, job.layers, nodes, band, state));
    return;
  }
  const layers = prepare(roots, viewport.area, pixelsOf(job.layers));
  const skip = layers.findIndex(({ top }) => top >= job.from);
  takeBands(control, job.rect, bandHeight, (band) => renderBand(state, job, nodes, layers, skip < 0 ? layers.length : skip, band));
}
