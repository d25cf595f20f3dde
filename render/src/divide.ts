/** In which parts a picture is rendered, so that all of them at work together stay within the memory that a job may use. */
import { coversAll, eachLayer, isSource, type Rect, type Size, type UmboDocument } from '@umbo/core';

const MEGABYTE = 2 ** 20;
/** What a job may use, in bytes; and what the process needs of it beside the parts at work. */
const BUDGET = (Number(process.env.UMBO_RENDER_MEMORY) || 1024) * MEGABYTE;
const BASE = 320 * MEGABYTE;

/** Bytes that a part takes for every pixel of it and its margin: the photograph, a mask at work, and what is being painted. */
const PIXEL = 80;
const MASK = 2;
const OWN = 24;
const FILTERED = 6;

/** How much an edit needs for every pixel at work. */
export function bytesPerPixel(document: UmboDocument): number {
  let bytes = PIXEL;
  for (const { where, what } of eachLayer(document.layers))
    bytes += (coversAll(where) ? 0 : MASK) + (isSource(what) ? OWN : 0) + ('layers' in what ? 0 : FILTERED);
  return bytes;
}

/** A part at least this large does little twice, however wide its margin. */
const LEAST = 128;

/**
 * @param reach how far around a part it must be looked at
 * @param bytes for every pixel of a part and its margin
 * @param threads that can work at once
 * @returns the parts, and how many may be worked on at once
 */
export function divide(
  { width, height }: Size,
  reach: number,
  bytes: number,
  threads: number,
  budget = BUDGET,
): { parts: Rect[]; lanes: number } {
  for (let lanes = threads; ; lanes--) {
    const pixels = Math.max(0, budget - BASE) / lanes / bytes;
    // Whole rows are read and written in one go: they are preferred while they waste little on their margins.
    const high = Math.floor(pixels / width) - 2 * reach;
    if (high >= Math.max(LEAST, reach))
      return { parts: grid({ width, height }, width, Math.min(high, evenly(height, lanes, reach))), lanes };
    const side = Math.floor(Math.sqrt(pixels)) - 2 * reach;
    if (side >= Math.max(LEAST, reach) || lanes === 1) {
      const edge = Math.max(LEAST, side);
      return { parts: grid({ width, height }, edge, edge), lanes };
    }
  }
}

/** So high that all threads have work, and margins do not dominate. */
const evenly = (height: number, lanes: number, reach: number): number => Math.max(LEAST, 2 * reach, Math.ceil(height / lanes / 16));

function grid({ width, height }: Size, w: number, h: number): Rect[] {
  const parts: Rect[] = [];
  for (let y = 0; y < height; y += h)
    for (let x = 0; x < width; x += w) parts.push({ x, y, width: Math.min(w, width - x), height: Math.min(h, height - y) });
  return parts;
}
