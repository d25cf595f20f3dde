/** From pixels of the photograph to pixels of the picture: moved where they stay whole, else resampled once. */
import { intersect, wholeOf, type Framing, type Rect, type Scale } from '../base/geometry.ts';
import { acceleration } from '../base/acceleration.ts';
import { PHASES, project, type Kernel, type Samples, type WarpSpan } from '../base/framing.ts';
import type { Matrix } from '../base/matrix.ts';
import { clamp, smoothStep } from '../base/number.ts';
import { quantise } from '../base/planes.ts';
import { lanczos, LOBES } from '../base/resample.ts';
import { framingAt } from './framing.ts';

/** Reductions are rounded up to this. */
const STRETCH_STEP = 0.125;
/** Further away than any canvas reaches. */
const FAR = 1e9;
/** So many pixels of a row are reduced alike. */
const BLOCK = 8;
/** How far along the photograph's edge colours are mixed where it fades out, in pixels in full, at most; and of how many pixels. */
const [SPREAD, MIXED] = [24, 9];

const kernels = new Map<number, Kernel>();

/**
 * Weights of a Lanczos kernel, stretched where the photograph becomes smaller so that it also filters.
 */
function kernelFor(stretch: number): Kernel {
  const steps = Math.max(0, Math.ceil((stretch - 1) / STRETCH_STEP - 1e-3));
  let kernel = kernels.get(steps);
  if (!kernel) {
    const wide = 1 + steps * STRETCH_STEP;
    const count = 2 * Math.ceil(LOBES * wide);
    const weights = new Float32Array((PHASES + 1) * count);
    for (let phase = 0; phase <= PHASES; phase++) {
      const own = Array.from({ length: count }, (_, k) => lanczos((k - count / 2 + 1 - phase / PHASES) / wide));
      const sum = own.reduce((all, weight) => all + weight, 0);
      own.forEach((weight, k) => (weights[phase * count + k] = weight / sum));
    }
    kernels.set(steps, (kernel = { count, weights }));
  }
  return kernel;
}

/** How many pixels of the photograph one of the picture is as wide and as high as, at a place of the picture. */
function stretchAt([a, b, c]: Matrix, x: number, y: number): [number, number] {
  const w = c[0] * x + c[1] * y + c[2];
  const [u, v] = [(a[0] * x + a[1] * y + a[2]) / w, (b[0] * x + b[1] * y + b[2]) / w];
  return [Math.hypot(a[0] - u * c[0], a[1] - u * c[1]) / w, Math.hypot(b[0] - v * c[0], b[1] - v * c[1]) / w];
}

/** Whether lines stay parallel. */
export const isAffine = ([, , c]: Matrix): boolean => c[0] === 0 && c[1] === 0;
const cornersOf = ({ x, y, width, height }: Rect): [number, number][] => [
  [x, y],
  [x + width, y],
  [x + width, y + height],
  [x, y + height],
];

/** The area of the photograph, at the size in work, that an area of the picture is made from: at least a pixel. */
export function photographArea(scale: Scale, area: Rect): Rect {
  const { framing, picture, full } = scale;
  if (!framing) return area;
  const { toPhotograph } = framingAt(scale, framing);
  const corners = cornersOf(area);
  const places = corners.map(([x, y]) => project(toPhotograph, x, y));
  if (places.some(([x]) => Number.isNaN(x))) return wholeOf(picture);
  const stretch = Math.max(1, ...corners.flatMap(([x, y]) => stretchAt(toPhotograph, x, y)));
  const spread = framing.outside.fade > 0 ? (SPREAD * picture.width) / full.width : 0;
  const margin = framing.keepsPixels && spread === 0 ? 0 : Math.ceil(LOBES * (stretch + STRETCH_STEP) + spread) + 1;
  const [xs, ys] = [places.map(([x]) => x), places.map(([, y]) => y)];
  const side = (from: number, to: number, length: number): [number, number] => {
    const first = clamp(Math.floor(from + 1e-6) - margin, 0, length - 1);
    return [first, clamp(Math.ceil(to - 1e-6) + margin, first + 1, length)];
  };
  const [left, right] = side(Math.min(...xs), Math.max(...xs), picture.width);
  const [top, bottom] = side(Math.min(...ys), Math.max(...ys), picture.height);
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** The colour of the canvas around the photograph. @param most of the samples @param channels a fourth one is full */
const canvasSamples = ({ outside }: Framing, most: number, channels: number): number[] =>
  Array.from({ length: channels }, (_, c) => quantise(outside.colour[c] ?? 1, most));

/**
 * An area of the picture, made of what is rendered of the photograph.
 * @param render gives an area of the photograph
 */
export function pictureSamples(
  scale: Scale,
  area: Rect,
  render: (area: Rect) => Samples,
  canvas: (samples: Samples) => readonly number[] = ({ values, channels }) => canvasSamples(scale.framing!, mostOf(values), channels),
): Samples {
  if (!scale.framing) return render(area);
  const source = render(photographArea(scale, area));
  const { channels, values } = source;
  const length = area.width * area.height * channels;
  const of = values instanceof Uint16Array ? Uint16Array : values instanceof Uint8ClampedArray ? Uint8ClampedArray : Uint8Array;
  const out: Samples = { area, channels, values: new of(length) };
  warpPixels(scale, scale.framing, source, out, canvas(source));
  return out;
}

const mostOf = (values: Samples['values']): number => (values instanceof Uint16Array ? 65535 : 255);

/**
 * Fills an area of the picture.
 * @param source covers {@link photographArea} of it
 * @param canvas the colour around the photograph, as samples
 */
export function warpPixels(scale: Scale, framing: Framing, source: Samples, out: Samples, canvas: ArrayLike<number>): void {
  const at = framingAt(scale, framing);
  const fade = (framing.outside.fade * scale.picture.width) / scale.full.width;
  const spread = (SPREAD * scale.picture.width) / scale.full.width;
  const around = { canvas, fade, spread, whole: wholeOf(scale.picture) };
  if (framing.keepsPixels) movePixels(at.toPhotograph, around, source, out);
  else resamplePixels(at.toPhotograph, around, source, out);
}

interface Around {
  readonly canvas: ArrayLike<number>;
  readonly fade: number;
  readonly spread: number;
  /** All of the photograph. */
  readonly whole: Rect;
}

function movePixels(toPhotograph: Matrix, around: Around, source: Samples, out: Samples): void {
  const { area, channels, values } = out;
  const from = source.values;
  const inside = intersect(source.area, around.whole);
  const [a, b] = toPhotograph;
  /** From one pixel of a row to the next. */
  const step = (Math.round(a[0]) + Math.round(b[0]) * source.area.width) * channels;
  const placeAt = (x: number, y: number): [number, number] => project(toPhotograph, x + 0.5, y + 0.5);
  const isInside = (x: number, y: number): boolean => {
    const [u, v] = placeAt(x, y);
    return u >= inside.x && v >= inside.y && u < inside.x + inside.width && v < inside.y + inside.height;
  };
  for (let row = 0; row < area.height; row++) {
    const y = area.y + row;
    const at = (x: number): number => (row * area.width + x - area.x) * channels;
    let [first, last] = [area.x, area.x + area.width];
    for (; first < last && !isInside(first, y); first++) paintOutside(around, source, ...placeAt(first, y), values, at(first));
    for (; first < last && !isInside(last - 1, y); last--) paintOutside(around, source, ...placeAt(last - 1, y), values, at(last - 1));
    if (first === last) continue;
    const [u, v] = placeAt(first, y);
    let i = ((Math.floor(v) - source.area.y) * source.area.width + Math.floor(u) - source.area.x) * channels;
    for (let o = at(first), end = at(last); o < end; o += channels, i += step)
      for (let c = 0; c < channels; c++) values[o + c] = from[i + c]!;
  }
}

function resamplePixels(toPhotograph: Matrix, around: Around, source: Samples, out: Samples): void {
  const { area, channels, values } = out;
  const { whole } = around;
  const most = mostOf(values);
  const span = (acceleration?.openTurn ?? openTurnDefined)(source, whole, toPhotograph, most);
  const edge = values.slice(0, channels);
  /** How far inside the photograph, in its pixels: its edge lies between pixels. */
  const depthAt = (x: number, y: number): number => {
    const [u, v] = project(toPhotograph, x + 0.5, y + 0.5);
    return Math.min(u, v, whole.width - u, whole.height - v);
  };
  /** At the photograph's edge, or outside. */
  const paintEdge = (x: number, y: number, across: Kernel, down: Kernel, o: number): void => {
    const [u, v] = project(toPhotograph, x + 0.5, y + 0.5);
    const share = clamp(depthAt(x, y) + 0.5, 0, 1);
    paintOutside(around, source, Number.isNaN(u) ? -FAR : u, Number.isNaN(v) ? -FAR : v, edge, 0);
    if (share > 0) span(x, y, 1, across, down, values, o);
    for (let c = 0; c < channels; c++) values[o + c] = share > 0 ? Math.round(edge[c]! + (values[o + c]! - edge[c]!) * share) : edge[c]!;
  };
  // A row that is reduced evenly is one stretch; else it is so many pixels, by places of the picture: it comes out the same in all parts.
  const block = isAffine(toPhotograph) ? area.width : BLOCK;
  for (let row = 0; row < area.height; row++) {
    const y = area.y + row;
    for (let from = area.x; from < area.x + area.width;) {
      const start = block === BLOCK ? from - (from % BLOCK) : from;
      const to = Math.min(area.x + area.width, start + block);
      const [wide, high] = stretchAt(toPhotograph, start + 0.5, y + 0.5);
      const [across, down] = [kernelFor(wide), kernelFor(high)];
      const at = (x: number): number => (row * area.width + x - area.x) * channels;
      let [first, last] = [from, to];
      while (first < last && !(depthAt(first, y) >= 0.5)) paintEdge(first, y, across, down, at(first++));
      while (first < last && !(depthAt(last - 1, y) >= 0.5)) paintEdge(last - 1, y, across, down, at(--last));
      if (first < last) span(first, y, last - first, across, down, values, at(first));
      from = to;
    }
  }
}

/** The definition; there is a faster twin. Beyond the photograph's edge its nearest pixel goes on. */
function openTurnDefined(source: Samples, whole: Rect, toPhotograph: Matrix, most: number): WarpSpan {
  const { area, channels } = source;
  // What the source does not hold has next to no weight: only rounding leads there.
  const [x0, x1] = [Math.max(0, area.x), Math.min(whole.width, area.x + area.width) - 1];
  const [y0, y1] = [Math.max(0, area.y), Math.min(whole.height, area.y + area.height) - 1];
  const sums = new Float64Array(channels);
  return (x, y, n, across, down, values, o) => {
    for (let i = 0; i < n; i++, o += channels) {
      const [u, v] = project(toPhotograph, x + i + 0.5, y + 0.5);
      const [fu, fv] = [Math.floor(u - 0.5), Math.floor(v - 0.5)];
      const [pu, pv] = [Math.floor((u - 0.5 - fu) * PHASES + 0.5) * across.count, Math.floor((v - 0.5 - fv) * PHASES + 0.5) * down.count];
      sums.fill(0);
      for (let k = 0; k < down.count; k++) {
        const row = (clamp(fv - down.count / 2 + 1 + k, y0, y1) - area.y) * area.width - area.x;
        for (let j = 0; j < across.count; j++) {
          const weight = down.weights[pv + k]! * across.weights[pu + j]!;
          const from = (row + clamp(fu - across.count / 2 + 1 + j, x0, x1)) * channels;
          for (let c = 0; c < channels; c++) sums[c] = sums[c]! + source.values[from + c]! * weight;
        }
      }
      for (let c = 0; c < channels; c++) values[o + c] = clamp(Math.floor(sums[c]! + 0.5), 0, most);
    }
  };
}

/** The canvas at a place outside the photograph: its colour, into which the nearest colours of the edge fade. */
function paintOutside(
  { canvas, fade, spread, whole }: Around,
  source: Samples,
  u: number,
  v: number,
  values: Samples['values'],
  o: number,
): void {
  const { area, channels } = source;
  const [nu, nv] = [clamp(u, 0, whole.width), clamp(v, 0, whole.height)];
  const far = Math.hypot(u - nu, v - nv);
  const share = fade > 0 ? 1 - smoothStep(far / fade) : 0;
  if (share === 0) {
    for (let c = 0; c < channels; c++) values[o + c] = canvas[c]!;
    return;
  }
  // The further out, the more of the edge is mixed: single pixels would become stripes.
  const reach = Math.min(far / 2, spread);
  const [alongU, alongV] = [nu === u ? 1 : 0, nv === v ? 1 : 0];
  const count = reach < 0.5 || alongU + alongV !== 1 ? 1 : MIXED;
  for (let c = 0; c < channels; c++) {
    let sum = 0;
    for (let k = 0; k < count; k++) {
      const off = count === 1 ? 0 : reach * ((2 * k) / (count - 1) - 1);
      const sx = clamp(Math.floor(nu + alongU * off), area.x, area.x + area.width - 1);
      const sy = clamp(Math.floor(nv + alongV * off), area.y, area.y + area.height - 1);
      sum += source.values[((sy - area.y) * area.width + sx - area.x) * channels + c]!;
    }
    values[o + c] = Math.round(canvas[c]! + (sum / count - canvas[c]!) * share);
  }
}
