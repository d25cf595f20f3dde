/** From working pixels to what a canvas shows. */
import { createPlanes, quantise, readRaster, type ColourSpace, type Planes, type Raster, type Rect } from '@umbo/core/base';
import { planesBetween, srgb } from '@umbo/core/colour';

/** Rows that are turned into another space at once. */
const ROWS = 64;

/** Writes a tile into interleaved RGBA that covers `area`, as 8 bits of another space. Its planes are changed. */
export function paint(out: Uint8ClampedArray, area: Rect, tile: Rect, pixels: Planes, from: ColourSpace, to: ColourSpace): void {
  planesBetween(from, to, pixels, tile.width * tile.height);
  const { r, g, b } = pixels;
  for (let y = 0, i = 0; y < tile.height; y++) {
    let o = ((tile.y - area.y + y) * area.width + tile.x - area.x) * 4;
    for (let x = 0; x < tile.width; x++, i++) {
      out[o++] = quantise(r[i]!, 255);
      out[o++] = quantise(g[i]!, 255);
      out[o++] = quantise(b[i]!, 255);
      out[o++] = 255;
    }
  }
}

/** An area of stored pixels as RGBA. */
export function rgbaOf(raster: Raster, area: Rect, from: ColourSpace, to: ColourSpace = srgb): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(area.width * area.height * 4);
  const pixels = createPlanes(area.width * ROWS);
  for (let y = area.y; y < area.y + area.height; y += ROWS) {
    const band = { x: area.x, y, width: area.width, height: Math.min(ROWS, area.y + area.height - y) };
    readRaster(raster, band, pixels);
    paint(out, area, band, pixels, from, to);
  }
  return out;
}
