/** What a tile worker does with a job: pure calculation from shared memory to shared memory. */
import {
  applyLayer,
  createPlanes,
  createWorkspace,
  forEachTile,
  intersect,
  isEmpty,
  quantise,
  readRaster,
  renderMask,
  resample,
  TILE,
  type PreparedLayer,
  type Rect,
  type UmboDocument,
} from '@umbo/core';
import type { SharedFrame, TileJob } from '../protocol';

const work = createWorkspace();
const pixels = createPlanes(TILE.width * TILE.height);

/** Calls `each` for bands of `rect` until there are none left or the job is called off. */
function takeBands(control: Int32Array, rect: Rect, bandHeight: number, each: (band: Rect) => void): void {
  while (Atomics.load(control, 1) === 0) {
    const y = rect.y + Atomics.add(control, 0, 1) * bandHeight;
    if (y >= rect.y + rect.height) return;
    each({ x: rect.x, y, width: rect.width, height: Math.min(bandHeight, rect.y + rect.height - y) });
  }
}

function scaleSource({ source, scale }: SharedFrame, { level, levelSize }: Extract<TileJob, { type: 'source' }>, band: Rect): void {
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

function renderBand(frame: SharedFrame, job: Extract<TileJob, { type: 'render' }>, layers: PreparedLayer[], band: Rect): void {
  for (const [i, { mask, dirty }] of job.layers.entries()) {
    if (!mask || !dirty) continue;
    const part = intersect(dirty, { ...band, x: frame.area.x, width: frame.area.width });
    if (isEmpty(part)) continue;
    const values = renderMask(layers[i]!.layer.where, frame.scale, part, frame.source);
    for (let y = 0; y < part.height; y++)
      mask.set(
        values.subarray(y * part.width, (y + 1) * part.width),
        (part.y - frame.area.y + y) * frame.area.width + part.x - frame.area.x,
      );
  }
  forEachTile(band, (tile) => {
    if (job.from > 0) copyTile(frame, tile, 'read');
    else readRaster(frame.source, tile, pixels);
    for (let i = job.from; i < layers.length; i++) {
      if (i === job.storeAt) copyTile(frame, tile, 'write');
      applyLayer(layers[i]!, tile, pixels, work);
    }
    if (job.storeAt === layers.length) copyTile(frame, tile, 'write');
    paintTile(frame, tile);
  });
}

function copyTile({ area, below }: SharedFrame, tile: Rect, direction: 'read' | 'write'): void {
  for (const plane of ['r', 'g', 'b'] as const)
    for (let y = 0; y < tile.height; y++) {
      const at = (tile.y - area.y + y) * area.width + tile.x - area.x;
      if (direction === 'read') pixels[plane].set(below[plane].subarray(at, at + tile.width), y * tile.width);
      else below[plane].set(pixels[plane].subarray(y * tile.width, (y + 1) * tile.width), at);
    }
}

function paintTile({ area, rgba }: SharedFrame, tile: Rect): void {
  for (let y = 0, i = 0; y < tile.height; y++) {
    let o = ((tile.y - area.y + y) * area.width + tile.x - area.x) * 4;
    for (let x = 0; x < tile.width; x++, i++) {
      rgba[o++] = quantise(pixels.r[i]!, 255);
      rgba[o++] = quantise(pixels.g[i]!, 255);
      rgba[o++] = quantise(pixels.b[i]!, 255);
      rgba[o++] = 255;
    }
  }
}

/**
 * Takes bands of a job until there are none left or it is called off.
 * @param control shared by all workers on the job
 */
export function performTileJob(frame: SharedFrame, document: UmboDocument, job: TileJob, control: Int32Array, bandHeight: number): void {
  if (job.type === 'source') {
    takeBands(control, frame.source.area, bandHeight, (band) => scaleSource(frame, job, band));
    return;
  }
  const byId = new Map(document.layers.map((layer) => [layer.id, layer]));
  const layers = job.layers.map(({ id, mask }) => ({ layer: byId.get(id)!, mask: mask && { area: frame.area, values: mask } }));
  takeBands(control, job.rect, bandHeight, (band) => renderBand(frame, job, layers, band));
}
