import type { Rect } from '../base/geometry.ts';
import { createPlanes, readRaster, type Raster } from '../base/planes.ts';
import { oklabOf } from './likeness.ts';
import type { MaskView, OklabPlanes } from './part.ts';

const known = new WeakMap<Raster, OklabPlanes>();

/** An overview in OKLab, as the region's pixels; made once. */
export function overviewOklab(overview: Raster): OklabPlanes {
  let lab = known.get(overview);
  if (!lab) {
    const n = overview.area.width * overview.area.height;
    const planes = createPlanes(n);
    readRaster(overview, overview.area, planes);
    known.set(overview, (lab = oklabOf(planes, n)));
  }
  return lab;
}

/** Values of the overview's pixels at the pixels of the region in work, bilinear between them. */
export function sampleSmooth(values: ArrayLike<number>, { width, height }: Rect, { picture, region }: MaskView, out: Float32Array): void {
  for (let y = 0, i = 0; y < region.height; y++) {
    const v = Math.max(0, Math.min(height - 1, ((region.y + y + 0.5) / picture.height) * height - 0.5));
    const v0 = v | 0;
    const top = v0 * width;
    const bottom = Math.min(height - 1, v0 + 1) * width;
    for (let x = 0; x < region.width; x++, i++) {
      const u = Math.max(0, Math.min(width - 1, ((region.x + x + 0.5) / picture.width) * width - 0.5));
      const u0 = u | 0;
      const u1 = Math.min(width - 1, u0 + 1);
      const upper = values[top + u0]! + (values[top + u1]! - values[top + u0]!) * (u - u0);
      const lower = values[bottom + u0]! + (values[bottom + u1]! - values[bottom + u0]!) * (u - u0);
      out[i] = upper + (lower - upper) * (v - v0);
    }
  }
}
