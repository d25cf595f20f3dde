/** From working pixels to what a canvas shows. */
import { throughLattice } from '@umbo/core/adjust';
import { createPlanes, quantise, readRaster, type Lattice, type Planes, type Raster, type Rect } from '@umbo/core/base';
import { planesBetween, spaceOf, spaces, srgb } from '@umbo/core/colour';
import { FARTHEST, type Proof, type SharedViewport } from '../protocol';

/** Turns the first `n` pixels into what is shown, in place. */
export type Show = (pixels: Planes, n: number) => void;

/** How a viewport's pixels are shown. */
export const showing = ({ scale, display }: Pick<SharedViewport, 'scale' | 'display'>, proof: Proof | null): Show =>
  proof ? (pixels, n) => throughLattice(pixels, n, proof.shown) : (pixels, n) => planesBetween(spaceOf(scale), spaces[display], pixels, n);

/** Small pictures are shown in sRGB. */
export const showingSmall =
  (scale: SharedViewport['scale']): Show =>
  (pixels, n) =>
    planesBetween(spaceOf(scale), srgb, pixels, n);

/** Rows that are turned into another space at once. */
const ROWS = 64;

/** Writes a tile as it is shown into interleaved RGBA that covers `area`. Its planes are changed. */
export function paint(out: Uint8ClampedArray, area: Rect, tile: Rect, pixels: Planes, show: Show): void {
  show(pixels, tile.width * tile.height);
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
export function rgbaOf(raster: Raster, area: Rect, show: Show): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(area.width * area.height * 4);
  const pixels = createPlanes(area.width * ROWS);
  for (let y = area.y; y < area.y + area.height; y += ROWS) {
    const band = { x: area.x, y, width: area.width, height: Math.min(ROWS, area.y + area.height - y) };
    readRaster(raster, band, pixels);
    paint(out, area, band, pixels, show);
  }
  return out;
}

/** Writes how far out of the gamut a tile is. @param scratch as large as the tile */
export function writeBeyond(out: Uint16Array, area: Rect, tile: Rect, pixels: Planes, scratch: Planes, beyond: Lattice): void {
  const n = tile.width * tile.height;
  for (const plane of ['r', 'g', 'b'] as const) scratch[plane].set(pixels[plane].subarray(0, n));
  throughLattice(scratch, n, beyond);
  for (let y = 0, i = 0; y < tile.height; y++)
    for (let x = 0, o = (tile.y - area.y + y) * area.width + tile.x - area.x; x < tile.width; x++, i++, o++)
      out[o] = quantise(scratch.r[i]! / FARTHEST, 65535);
}
