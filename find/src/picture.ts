/** Pictures and planes of numbers, as the finding of regions works on them. */

/** Encoded sRGB, 0..1, three numbers for each pixel, row by row. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** One number for each pixel, row by row; of a mask 0..1. */
export interface Plane {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** A rectangle of a picture, turned about its centre. */
export interface Turned {
  readonly cx: number;
  readonly cy: number;
  readonly width: number;
  readonly height: number;
  /** Radians, clockwise. */
  readonly angle: number;
}

export type Point = readonly [x: number, y: number];

export const whole = ({ width, height }: Picture | Plane): Turned => ({ cx: width / 2, cy: height / 2, width, height, angle: 0 });
export const createPlane = (width: number, height: number): Plane => ({ width, height, data: new Float32Array(width * height) });

export function map(plane: Plane, of: (value: number, i: number) => number): Plane {
  const out = createPlane(plane.width, plane.height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = of(plane.data[i]!, i);
  return out;
}
export const times = (a: Plane, b: Plane): Plane => map(a, (v, i) => v * b.data[i]!);
export const less = (a: Plane, b: Plane): Plane => map(a, (v, i) => Math.max(0, v - b.data[i]!));
export const without = (a: Plane, b: Plane): Plane => map(a, (v, i) => v * (1 - b.data[i]!));

/** 0 up to `a`, 1 from `b` on, smooth between them; `a` may be the greater one. */
export function smooth(a: number, b: number, x: number): number {
  const t = Math.min(1, Math.max(0, (x - a) / (b - a)));
  return t * t * (3 - 2 * t);
}

export const median = (values: readonly number[]): number => values.toSorted((x, y) => x - y)[values.length >> 1]!;

export const luminance = ({ data }: Picture, i: number): number =>
  0.2126 * data[3 * i]! + 0.7152 * data[3 * i + 1]! + 0.0722 * data[3 * i + 2]!;

/** Half as wide and as high: means of four. */
function halved({ width, height, data }: Picture): Picture {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Float32Array(w * h * 3);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      for (let c = 0; c < 3; c++) {
        const p = (2 * y * width + 2 * x) * 3 + c;
        out[(y * w + x) * 3 + c] = (data[p]! + data[p + 3]! + data[p + width * 3]! + data[p + width * 3 + 3]!) / 4;
      }
  return { width: w, height: h, data: out };
}

/** A picture, its half, a quarter, and so on. */
export function pyramidOf(picture: Picture): Picture[] {
  const levels = [picture];
  while (Math.min(levels.at(-1)!.width, levels.at(-1)!.height) > 64) levels.push(halved(levels.at(-1)!));
  return levels;
}

interface CropOptions {
  /** What black and white become. */
  readonly low?: number;
  readonly high?: number;
  /** What lies beside the picture: a value, or the picture's edge, repeated. */
  readonly beside?: number | 'edge';
}

/** Samples a turned rectangle of a picture, from the level of its pyramid that suits. @returns width * height * 3 values */
export function crop(
  pyramid: readonly Picture[],
  from: Turned,
  width: number,
  height: number,
  { low = 0, high = 1, beside = 0 }: CropOptions = {},
): Float32Array {
  const shrink = Math.max(from.width / width, from.height / height);
  const level = Math.max(0, Math.min(pyramid.length - 1, Math.floor(Math.log2(Math.max(1, shrink)) + 0.3)));
  const picture = pyramid[level]!;
  const [kx, ky] = [picture.width / pyramid[0]!.width, picture.height / pyramid[0]!.height];
  const [cos, sin] = [Math.cos(from.angle), Math.sin(from.angle)];
  const out = new Float32Array(width * height * 3);
  const { data } = picture;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const u = ((x + 0.5) / width - 0.5) * from.width;
      const v = ((y + 0.5) / height - 0.5) * from.height;
      let px = (from.cx + u * cos - v * sin) * kx - 0.5;
      let py = (from.cy + u * sin + v * cos) * ky - 0.5;
      const o = (y * width + x) * 3;
      const isInside = px > -1 && py > -1 && px < picture.width && py < picture.height;
      if (!isInside && beside !== 'edge') {
        out[o] = out[o + 1] = out[o + 2] = beside;
        continue;
      }
      px = Math.min(picture.width - 1, Math.max(0, px));
      py = Math.min(picture.height - 1, Math.max(0, py));
      const [x0, y0] = [Math.floor(px), Math.floor(py)];
      const [x1, y1] = [Math.min(picture.width - 1, x0 + 1), Math.min(picture.height - 1, y0 + 1)];
      const [dx, dy] = [px - x0, py - y0];
      for (let c = 0; c < 3; c++) {
        const upper = data[(y0 * picture.width + x0) * 3 + c]! * (1 - dx) + data[(y0 * picture.width + x1) * 3 + c]! * dx;
        const lower = data[(y1 * picture.width + x0) * 3 + c]! * (1 - dx) + data[(y1 * picture.width + x1) * 3 + c]! * dx;
        out[o + c] = low + (high - low) * (upper * (1 - dy) + lower * dy);
      }
    }
  return out;
}

/** A plane at another size: means of areas where it is made much smaller, else bilinear. */
export function resized(plane: Plane, width: number, height: number): Plane {
  const out = createPlane(width, height);
  const [sx, sy] = [plane.width / width, plane.height / height];
  if (sx > 1.5 || sy > 1.5) shrinkInto(plane, out, sx, sy);
  else stretchInto(plane, out, sx, sy);
  return out;
}

function shrinkInto(from: Plane, out: Plane, sx: number, sy: number): void {
  for (let y = 0; y < out.height; y++) {
    const y0 = Math.floor(y * sy);
    const y1 = Math.max(y0 + 1, Math.min(from.height, Math.floor((y + 1) * sy)));
    for (let x = 0; x < out.width; x++) {
      const x0 = Math.floor(x * sx);
      const x1 = Math.max(x0 + 1, Math.min(from.width, Math.floor((x + 1) * sx)));
      let sum = 0;
      for (let j = y0; j < y1; j++) for (let i = x0; i < x1; i++) sum += from.data[j * from.width + i]!;
      out.data[y * out.width + x] = sum / ((x1 - x0) * (y1 - y0));
    }
  }
}

function stretchInto(from: Plane, out: Plane, sx: number, sy: number): void {
  for (let y = 0; y < out.height; y++) {
    const v = Math.min(from.height - 1, Math.max(0, (y + 0.5) * sy - 0.5));
    const y0 = Math.floor(v);
    const [top, bottom, dy] = [y0 * from.width, Math.min(from.height - 1, y0 + 1) * from.width, v - y0];
    for (let x = 0; x < out.width; x++) {
      const u = Math.min(from.width - 1, Math.max(0, (x + 0.5) * sx - 0.5));
      const x0 = Math.floor(u);
      const [x1, dx] = [Math.min(from.width - 1, x0 + 1), u - x0];
      const upper = from.data[top + x0]! * (1 - dx) + from.data[top + x1]! * dx;
      const lower = from.data[bottom + x0]! * (1 - dx) + from.data[bottom + x1]! * dx;
      out.data[y * out.width + x] = upper * (1 - dy) + lower * dy;
    }
  }
}

/** One channel of a picture. */
export function channel({ width, height, data }: Picture, c: number): Plane {
  const out = createPlane(width, height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = data[3 * i + c]!;
  return out;
}

export function resizedPicture(picture: Picture, width: number, height: number): Picture {
  const data = new Float32Array(width * height * 3);
  for (let c = 0; c < 3; c++) {
    const plane = resized(channel(picture, c), width, height).data;
    for (let i = 0; i < plane.length; i++) data[3 * i + c] = plane[i]!;
  }
  return { width, height, data };
}

/** Lines of a row of pixels on which shapes are cut. */
const CUTS = 4;

/** The cover of closed shapes, each even-odd by itself. */
export function filled(width: number, height: number, shapes: readonly (readonly Point[])[]): Plane {
  const out = createPlane(width, height);
  for (const shape of shapes) {
    const top = Math.min(...shape.map(([, y]) => y));
    const bottom = Math.max(...shape.map(([, y]) => y));
    for (let y = Math.max(0, Math.floor(top)); y < Math.min(height, Math.ceil(bottom) + 1); y++)
      for (let cut = 0; cut < CUTS; cut++) fillLine(out, shape, y, y + (cut + 0.5) / CUTS);
  }
  return out;
}

function fillLine({ width, data }: Plane, shape: readonly Point[], row: number, at: number): void {
  const crossings: number[] = [];
  for (const [i, [ax, ay]] of shape.entries()) {
    const [bx, by] = shape[(i + 1) % shape.length]!;
    if (ay <= at !== by <= at) crossings.push(ax + ((at - ay) / (by - ay)) * (bx - ax));
  }
  crossings.sort((p, q) => p - q);
  for (let i = 0; i + 1 < crossings.length; i += 2) {
    const [left, right] = [Math.max(0, crossings[i]!), Math.min(width, crossings[i + 1]!)];
    for (let x = Math.floor(left); x < Math.min(width, Math.ceil(right)); x++) {
      const share = Math.max(0, Math.min(right, x + 1) - Math.max(left, x)) / CUTS;
      data[row * width + x] = Math.min(1, data[row * width + x]! + share);
    }
  }
}

/** The labels of connected pixels that satisfy a condition, from 1 on (0: none), and how many pixels each has. */
export function connected({ width, height }: Plane, holds: (i: number) => boolean): { labels: Int32Array; sizes: number[] } {
  const labels = new Int32Array(width * height);
  const sizes = [0];
  const stack: number[] = [];
  for (let seed = 0; seed < labels.length; seed++) {
    if (labels[seed] !== 0 || !holds(seed)) continue;
    const label = sizes.length;
    sizes.push(0);
    labels[seed] = label;
    stack.push(seed);
    while (stack.length > 0) {
      const i = stack.pop()!;
      sizes[label]!++;
      const x = i % width;
      for (const j of [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width])
        if (j >= 0 && j < labels.length && labels[j] === 0 && holds(j)) {
          labels[j] = label;
          stack.push(j);
        }
    }
  }
  return { labels, sizes };
}
