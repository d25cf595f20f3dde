/** In which parts a picture is rendered, so that all of them at work together stay within the memory that a job may use. */
import type { Rect, Size } from '@umbo/core/base';
import { isSource } from '@umbo/core/content';
import { eachLayer, type UmboDocument } from '@umbo/core/document';
import { coversAll } from '@umbo/core/mask';

const MEGABYTE = 2 ** 20;
/** What a job may use, in bytes; and what the process needs of it beside the parts at work. */
const BUDGET = (Number(process.env.UMBO_RENDER_MEMORY) || 1024) * MEGABYTE;
const BASE = 320 * MEGABYTE;

/** Whether something for every pixel of a picture may be held at once, beside what threads have not given back yet. */
export const fitsMemory = ({ width, height }: Size, bytes: number): boolean => width * height * bytes <= (BUDGET - BASE) / 2;

/** Bytes that a part takes for every pixel of it and its margin: the photograph, a mask at work, and what is being painted. */
const PIXEL = 56;
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

/** No part is smaller than this at its sides, whatever it takes. */
const LEAST = 128;

/**
 * @param reach how far around a part it must be looked at
 * @param bytes for every pixel of a part and its margin
 * @param threads that can work at once
 * @returns the parts, and how many may be worked on at once: as it takes the least time
 */
export function divide(full: Size, reach: number, bytes: number, threads: number, budget = BUDGET): { parts: Rect[]; lanes: number } {
  let best = { lanes: 1, width: LEAST, height: LEAST };
  for (let lanes = 1; lanes <= threads; lanes++)
    for (const size of shapes(full, reach, Math.max(0, budget - BASE) / lanes / bytes, lanes))
      if (Math.min(size.width, size.height) >= LEAST && timeOf({ lanes, ...size }, full, reach) < timeOf(best, full, reach))
        best = { lanes, ...size };
  return { parts: grid(full, best.width, best.height), lanes: best.lanes };
}

/** The largest parts of so many pixels with their margins: whole rows, which are read and written in one go, and squares. */
function shapes(full: Size, reach: number, pixels: number, lanes: number): Size[] {
  // So high that all threads have work, and margins do not dominate.
  const evenly = Math.max(LEAST, 2 * reach, Math.ceil(full.height / lanes / 16));
  const side = Math.floor(Math.sqrt(pixels)) - 2 * reach;
  return [
    { width: full.width, height: Math.min(evenly, Math.floor(pixels / full.width) - 2 * reach) },
    { width: side, height: side },
  ];
}

/** How long a pixel of a picture takes, in units of one that is worked on alone. */
const timeOf = ({ lanes, width, height }: Size & { lanes: number }, full: Size, reach: number): number =>
  (Math.min(full.width, width + 2 * reach) * Math.min(full.height, height + 2 * reach)) / (width * height) / lanes;

function grid({ width, height }: Size, w: number, h: number): Rect[] {
  const parts: Rect[] = [];
  for (let y = 0; y < height; y += h)
    for (let x = 0; x < width; x += w) parts.push({ x, y, width: Math.min(w, width - x), height: Math.min(h, height - y) });
  return parts;
}
