import { areaInWords, type Rect } from './geometry.ts';

/** Working pixels: three planes of float32 encoded RGB, nominal 0..1, rows one after another. */
export interface Planes {
  readonly r: Float32Array;
  readonly g: Float32Array;
  readonly b: Float32Array;
}

/** Stored pixels: three planes of 16-bit encoded RGB that cover `area` of a picture. */
export interface Raster {
  readonly area: Rect;
  readonly r: Uint16Array;
  readonly g: Uint16Array;
  readonly b: Uint16Array;
}

export function createPlanes(n: number): Planes {
  return { r: new Float32Array(n), g: new Float32Array(n), b: new Float32Array(n) };
}

/** @param shared put the pixels where other threads can see them */
export function createRaster(area: Rect, shared = false): Raster {
  const n = area.width * area.height;
  const plane = (): Uint16Array => new Uint16Array(shared ? new SharedArrayBuffer(n * 2) : new ArrayBuffer(n * 2));
  return { area, r: plane(), g: plane(), b: plane() };
}

/**
 * Reads `rect` of a raster as floats into the start of `out`.
 * @throws RangeError when the raster does not cover `rect`
 */
export function readRaster(from: Raster, rect: Rect, out: Planes): void {
  const { area } = from;
  if (rect.x < area.x || rect.y < area.y || rect.x + rect.width > area.x + area.width || rect.y + rect.height > area.y + area.height)
    throw new RangeError(`The raster covers ${areaInWords(area)}, not all of ${areaInWords(rect)}`);
  readPlane(from.r, out.r, area, rect);
  readPlane(from.g, out.g, area, rect);
  readPlane(from.b, out.b, area, rect);
}

function readPlane(from: Uint16Array, to: Float32Array, area: Rect, rect: Rect): void {
  const { width, height } = rect;
  const scale = 1 / 65535;
  for (let y = 0; y < height; y++) {
    const start = (rect.y - area.y + y) * area.width + rect.x - area.x;
    const out = y * width;
    for (let x = 0; x < width; x++) to[out + x] = from[start + x]! * scale;
  }
}

/** Writes a tile into planes that cover `area`. */
export function writePlanes(to: Planes, area: Rect, tile: Rect, pixels: Planes): void {
  for (const plane of ['r', 'g', 'b'] as const)
    for (let y = 0; y < tile.height; y++) {
      const row = pixels[plane].subarray(y * tile.width, (y + 1) * tile.width);
      to[plane].set(row, (tile.y - area.y + y) * area.width + tile.x - area.x);
    }
}

/** Writes a tile into a raster that covers it, clamped to 0..1. */
export function writeRaster(to: Raster, tile: Rect, pixels: Planes): void {
  for (const plane of ['r', 'g', 'b'] as const)
    for (let y = 0, i = 0; y < tile.height; y++) {
      let at = (tile.y - to.area.y + y) * to.area.width + tile.x - to.area.x;
      for (let x = 0; x < tile.width; x++) to[plane][at++] = quantise(pixels[plane][i++]!, 65535);
    }
}

/** Clamps to 0..1 (NaN gives 0) and rounds to 0..`max`. */
export function quantise(v: number, max: number): number {
  return v > 0 ? (v < 1 ? (v * max + 0.5) | 0 : max) : 0;
}
