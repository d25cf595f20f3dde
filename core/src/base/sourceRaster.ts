import type { Rect } from './geometry.ts';
import { createRaster, type Planes, type Raster } from './planes.ts';

/** Colours that are a layer's own, rendered once for a part of the picture: 16-bit encoded RGB and how far each pixel is covered. */
export interface SourceRaster extends Raster {
  readonly a: Uint16Array;
}

export function createOwnRaster(area: Rect, shared = false): SourceRaster {
  const { r, g, b } = createRaster(area, shared);
  const n = area.width * area.height;
  return { area, r, g, b, a: new Uint16Array(shared ? new SharedArrayBuffer(n * 2) : new ArrayBuffer(n * 2)) };
}

/** Reads a tile of a raster as floats. @param tile within the raster's area */
export function readSourceRaster({ area, r, g, b, a }: SourceRaster, tile: Rect, own: Planes, cover: Float32Array): void {
  const scale = 1 / 65535;
  for (let y = 0, i = 0; y < tile.height; y++) {
    let at = (tile.y - area.y + y) * area.width + tile.x - area.x;
    for (let x = 0; x < tile.width; x++, i++, at++) {
      own.r[i] = r[at]! * scale;
      own.g[i] = g[at]! * scale;
      own.b[i] = b[at]! * scale;
      cover[i] = a[at]! * scale;
    }
  }
}
