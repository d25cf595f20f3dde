import { mappingOf, mapX, mapY } from '../base/mapping.ts';
import { clamp } from '../base/number.ts';
import type { ColourSpace } from '../base/space.ts';
import type { Size } from '../base/geometry.ts';
import { createPlanes, readRaster, type Raster } from '../base/planes.ts';
import { oklabOf } from './likeness.ts';
import type { MaskView, OklabPlanes } from './part.ts';

const known = new WeakMap<Raster, OklabPlanes>();

/** An overview in OKLab, as the region's pixels; made once. */
export function overviewOklab(space: ColourSpace, overview: Raster): OklabPlanes {
  let lab = known.get(overview);
  if (!lab) {
    const n = overview.area.width * overview.area.height;
    const planes = createPlanes(n);
    readRaster(overview, overview.area, planes);
    known.set(overview, (lab = oklabOf(space, planes, n)));
  }
  return lab;
}

/** Values of the overview's pixels at the pixels of the region in work, bilinear between them. */
export function sampleSmooth(values: ArrayLike<number>, { width, height }: Size, view: MaskView, out: Float32Array): void {
  const { region, full } = view;
  const { toPhotograph } = mappingOf(view);
  const [perX, perY] = [width / full.width, height / full.height];
  for (let y = 0, i = 0; y < region.height; y++) {
    const py = region.y + y + 0.5;
    for (let x = 0; x < region.width; x++, i++) {
      const px = region.x + x + 0.5;
      const u = clamp(mapX(toPhotograph, px, py) * perX - 0.5, 0, width - 1);
      const v = clamp(mapY(toPhotograph, px, py) * perY - 0.5, 0, height - 1);
      const [u0, v0] = [u | 0, v | 0];
      const u1 = Math.min(width - 1, u0 + 1);
      const [top, bottom] = [v0 * width, Math.min(height - 1, v0 + 1) * width];
      const upper = values[top + u0]! + (values[top + u1]! - values[top + u0]!) * (u - u0);
      const lower = values[bottom + u0]! + (values[bottom + u1]! - values[bottom + u0]!) * (u - u0);
      out[i] = upper + (lower - upper) * (v - v0);
    }
  }
}
