/** In which parts a picture is rendered, so that all of them at work together stay within the memory that a job may use. */
import { project, type Rect, type Scale, type Size } from '@umbo/core/base';
import { isSource } from '@umbo/core/content';
import { eachLayer, type UmboDocument } from '@umbo/core/document';
import { framingAt } from '@umbo/core/geometry';
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
/** What is turned is held before, in between and after. */
const TURNED = 24;

/** How much an edit needs for every pixel at work. */
export function bytesPerPixel(document: UmboDocument): number {
  let bytes = PIXEL + (document.geometry ? TURNED : 0);
  for (const { where, what } of eachLayer(document.layers))
    bytes += (coversAll(where) ? 0 : MASK) + (isSource(what) ? OWN : 0) + ('layers' in what ? 0 : FILTERED);
  return bytes;
}

/** No part is smaller than this at its sides, whatever it takes. */
const LEAST = 128;

/** What parts need beside their own pixels. */
export interface Needs {
  /** How far around a part it must be looked at. */
  readonly reach: number;
  /** By how much of its other side a part is longer where it lies on the photograph; 0 for what is not turned. */
  readonly turned: number;
  /** For every pixel of a part, with all that. */
  readonly bytes: number;
}

/** Side of the squares by which {@link turnedBy} is found. */
const PROBE = 256;

/** By how much of their other side parts of a picture are longer on its photograph. */
export function turnedBy(scale: Scale): number {
  const { framing } = scale;
  if (!framing || framing.keepsPixels) return 0;
  const { size, toPhotograph } = framingAt(scale, framing);
  let most = 0;
  for (const x of [0, size.width / 2, size.width - PROBE])
    for (const y of [0, size.height / 2, size.height - PROBE]) {
      const corners = [x, x + PROBE].flatMap((cx) => [y, y + PROBE].map((cy) => project(toPhotograph, cx, cy)));
      for (const i of [0, 1] as const) {
        const along = corners.map((corner) => corner[i]);
        most = Math.max(most, (Math.max(...along) - Math.min(...along)) / PROBE - 1);
      }
    }
  return most;
}

/**
 * @param threads that can work at once
 * @returns the parts, and how many may be worked on at once: as it takes the least time
 */
export function divide(full: Size, needs: Needs, threads: number, budget = BUDGET): { parts: Rect[]; lanes: number } {
  let best = { lanes: 1, width: LEAST, height: LEAST };
  for (let lanes = 1; lanes <= threads; lanes++)
    for (const size of shapes(full, needs, Math.max(0, budget - BASE) / lanes / needs.bytes, lanes))
      if (Math.min(size.width, size.height) >= LEAST && timeOf({ lanes, ...size }, full, needs) < timeOf(best, full, needs))
        best = { lanes, ...size };
  return { parts: grid(full, best.width, best.height), lanes: best.lanes };
}

/** The largest parts of so many pixels with all that they need: whole rows, which are read and written in one go, and squares. */
function shapes(full: Size, { reach, turned }: Needs, pixels: number, lanes: number): Size[] {
  // So high that all threads have work, and margins do not dominate.
  const evenly = Math.max(LEAST, 2 * reach, Math.ceil(full.height / lanes / 16));
  const side = Math.floor((Math.sqrt(pixels) - 2 * reach) / (1 + turned));
  return [
    { width: full.width, height: Math.min(evenly, Math.floor(pixels / full.width - 2 * reach - full.width * turned)) },
    { width: side, height: side },
  ];
}

/** How long a pixel of a picture takes, in units of one that is worked on alone. */
function timeOf({ lanes, width, height }: Size & { lanes: number }, full: Size, { reach, turned }: Needs): number {
  const [wide, high] = [width + height * turned + 2 * reach, height + width * turned + 2 * reach];
  return (turned > 0 ? wide * high : Math.min(full.width, wide) * Math.min(full.height, high)) / (width * height) / lanes;
}

function grid({ width, height }: Size, w: number, h: number): Rect[] {
  const parts: Rect[] = [];
  for (let y = 0; y < height; y += h)
    for (let x = 0; x < width; x += w) parts.push({ x, y, width: Math.min(w, width - x), height: Math.min(h, height - y) });
  return parts;
}
