/** What a layer's mask lets in of the picture below it, small. */
import {
  coversAll,
  createRaster,
  hazeLight,
  hazePatch,
  firstCorrection,
  hueCensus,
  histogram,
  rampFromRegion,
  createPlanes,
  readRaster,
  renderMask,
  renderRegion,
  stackBelow,
  tonalEnds,
  withBelow,
  writeRaster,
  type Pictures,
  type Raster,
  type ResolvedLayer,
  type Scale,
  type UmboDocument,
} from '@umbo/core';
import type { RegionMeasure, Solutions, SolveTask } from '../protocol';

export interface Region {
  picture: Raster;
  /** 0..65535; null: everything counts. */
  weight: Uint16Array | null;
  scale: Scale;
}

/** @param node the layer; null for the result of all layers */
export function regionOf(document: UmboDocument, node: ResolvedLayer | null, scale: Scale, source: Raster, pictures: Pictures): Region {
  const picture = createRaster(source.area);
  const below = node ? stackBelow(document, node.layer.id) : document;
  renderRegion(below, scale, source.area, source, pictures, (tile, pixels) => writeRaster(picture, tile, pixels));
  if (!node || coversAll(node.where)) return { picture, weight: null, scale };
  const { where, owner } = node;
  const looked = withBelow(document, owner, where, scale, source, pictures);
  return { picture, weight: renderMask(where, scale, source.area, source, looked), scale };
}

export function measureRegion(layerId: string, { picture, weight }: Region): RegionMeasure {
  const counted = weight ?? undefined;
  return {
    layerId,
    census: { oklch: hueCensus(picture, counted), hsl: hueCensus(picture, counted, 'hsl') },
    histogram: histogram(picture, counted),
  };
}

export function solve(task: SolveTask, { picture, weight, scale }: Region): Solutions[SolveTask['kind']] {
  if (task.kind === 'ends') return tonalEnds(picture, task.clip, weight ?? undefined);
  if (task.kind === 'hazeLight') return hazeLight(picture, hazePatch(scale));
  if (task.kind === 'firstCorrection') return firstCorrection(picture);
  const n = picture.r.length;
  const planes = createPlanes(n);
  readRaster(picture, picture.area, planes);
  return rampFromRegion(planes, weight ? Float32Array.from(weight, (w) => w / 65535) : new Float32Array(n).fill(1), task.driver);
}
