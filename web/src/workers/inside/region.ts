/** What a layer's mask lets in of the picture below it, small. */
import { hazeLight, hazePatch, rampFromRegion } from '@umbo/core/adjust';
import { createPlanes, readRaster, type Raster, type Scale } from '@umbo/core/base';
import { firstCorrection, hueCensus, histogram, tonalEnds } from '@umbo/core/measure';
import type { RegionMeasure, Solutions, SolveTask } from '../protocol';

export interface Region {
  picture: Raster;
  /** 0..65535; null: everything counts. */
  weight: Uint16Array | null;
  scale: Scale;
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
