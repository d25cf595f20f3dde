/** Regions of pictures without people: the sky, and a rough start for the main object. No models: mixtures of colours and the guided filter. */
import { mixtureOf } from '@umbo/core/base';
import { boxMean, guideOf } from './guide.ts';
import { connected, createPlane, map, resized, resizedPicture, smooth, type Picture, type Plane } from './picture.ts';
import type { FoundRegion } from './regions.ts';

/** Longer side of the picture in work; edges are followed at three times that, and then at the picture's own size. */
const WORK = 320;

const linear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** OKLab (Ottosson 2020, shortened matrices), three numbers for each pixel. @param weight of the lightness */
function oklab({ data }: Picture, weight: number): Float32Array {
  const out = new Float32Array(data.length);
  for (let i = 0; i < data.length; i += 3) {
    const [r, g, b] = [linear(data[i]!), linear(data[i + 1]!), linear(data[i + 2]!)];
    const l = Math.cbrt(0.4122 * r + 0.5363 * g + 0.0514 * b);
    const m = Math.cbrt(0.2119 * r + 0.6807 * g + 0.1074 * b);
    const s = Math.cbrt(0.0883 * r + 0.2817 * g + 0.63 * b);
    out[i] = weight * (0.2105 * l + 0.7936 * m - 0.0041 * s);
    out[i + 1] = 1.978 * l - 2.4286 * m + 0.4506 * s;
    out[i + 2] = 0.0259 * l + 0.7828 * m - 0.8087 * s;
  }
  return out;
}

/** Variances below this count as this. */
const LEAST_VARIANCE = 4e-5;

interface Sizes {
  readonly small: Picture;
  /** Brings a mask of the small picture to the edges of the large one. */
  readonly grown: (mask: Plane, low: number, radius: number) => Plane;
}
function sizesOf(picture: Picture): Sizes {
  const scale = WORK / Math.max(picture.width, picture.height);
  const at = (times: number): Picture =>
    resizedPicture(picture, Math.round(picture.width * scale * times), Math.round(picture.height * scale * times));
  const middle = at(3);
  return {
    small: at(1),
    grown: (mask, low, radius) =>
      guideOf(
        picture,
        middle,
        radius,
        1e-4,
      )(
        resized(
          map(mask, (v) => smooth(low, 1 - low, v)),
          middle.width,
          middle.height,
        ),
      ),
  };
}

/** Strengths of an edge that may be the sky's lower border. */
const BORDERS = [0.012, 0.018, 0.025, 0.035, 0.05, 0.07, 0.1];

/** What is smooth and reaches the upper edge. A smooth wall cannot be told from it. @returns null where there is none */
export function findSky(picture: Picture): FoundRegion | null {
  const { small, grown } = sizesOf(picture);
  const { width, height } = small;
  const n = width * height;
  const lab = oklab(small, 1);
  const slope = slopesOf(lab, width, height);
  const texture = boxMean(slope, 2).data;
  const border = borderOf(lab, slope);
  if (!border) return null;
  const features = new Float32Array(n * 5);
  for (let i = 0; i < n; i++)
    features.set(
      [lab[3 * i]!, 1.5 * lab[3 * i + 1]!, 1.5 * lab[3 * i + 2]!, (0.25 * Math.floor(i / width)) / height, 2 * texture[i]!],
      5 * i,
    );
  let sky = createPlane(width, height);
  for (let i = 0; i < n; i++) sky.data[i] = Math.floor(i / width) < border[i % width]! ? 1 : 0;
  const guide = guideOf(small, small, 4, 1e-3);
  for (let round = 0; round < 4; round++) {
    const { data } = sky;
    const inside = mixtureOf(features, 5, n, (i) => data[i]! > 0.7, 5, LEAST_VARIANCE);
    const outside = mixtureOf(features, 5, n, (i) => data[i]! < 0.3, 6, LEAST_VARIANCE);
    const next = guide(
      map(sky, (v, i) => {
        const density = inside(i);
        return 0.3 * v + (0.7 * density) / (density + outside(i));
      }),
    );
    // What is joined to the upper edge.
    const { labels } = connected(next, (i) => next.data[i]! > 0.5);
    const atTop = new Set(labels.subarray(0, width));
    atTop.delete(0);
    const joined = boxMean(
      map(next, (_, i) => (atTop.has(labels[i]!) ? 1 : 0)),
      2,
    );
    sky = map(next, (v, i) => (joined.data[i]! > 0.02 ? v : 0));
  }
  const confidence = skyConfidence(sky, texture);
  if (confidence < 0.3) return null;
  return { role: 'sky', person: null, mask: grown(sky, 0.25, 6), sure: confidence > 0.8 ? 'sure' : 'check the edge' };
}

function slopesOf(lab: Float32Array, width: number, height: number): Plane {
  const out = createPlane(width, height);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      let sum = 0;
      for (let c = 0; c < 3; c++)
        sum += (lab[3 * (i + 1) + c]! - lab[3 * (i - 1) + c]!) ** 2 + (lab[3 * (i + width) + c]! - lab[3 * (i - width) + c]!) ** 2;
      out.data[i] = Math.sqrt(sum) / 2;
    }
  return out;
}

/** For each column the first strong edge from the top, of that strength which best parts two groups of colours. */
function borderOf(lab: Float32Array, slope: Plane): number[] | null {
  const { width, height, data } = slope;
  const n = width * height;
  let best: { parted: number; border: number[] } | null = null;
  for (const strength of BORDERS) {
    const border = Array.from({ length: width }, (_, x) => {
      let y = 2;
      while (y < height - 1 && data[y * width + x]! < strength) y++;
      return y;
    });
    const sides = [0, 1].map(() => ({ n: 0, sum: [0, 0, 0], squares: [0, 0, 0] }));
    for (let i = 0; i < n; i++) {
      const side = sides[Math.floor(i / width) < border[i % width]! ? 0 : 1]!;
      side.n++;
      for (let c = 0; c < 3; c++) {
        side.sum[c]! += lab[3 * i + c]!;
        side.squares[c]! += lab[3 * i + c]! ** 2;
      }
    }
    const [above, below] = sides as [(typeof sides)[number], (typeof sides)[number]];
    if (above.n < n * 0.02 || below.n < n * 0.02) continue;
    const spread = sides.map((side) => side.squares.reduce((total, v, c) => total + v / side.n - (side.sum[c]! / side.n) ** 2, 0));
    const apart = [0, 1, 2].reduce((total, c) => total + (above.sum[c]! / above.n - below.sum[c]! / below.n) ** 2, 0);
    const parted = ((apart + 1e-4) / (2 * spread[0]! + spread[1]! + 1e-3)) * Math.sqrt(above.n / n);
    if (!best || parted > best.parted) best = { parted, border };
  }
  return best?.border ?? null;
}

function skyConfidence({ width, data }: Plane, texture: Float32Array): number {
  let [area, top, rough] = [0, 0, 0];
  for (const [i, v] of data.entries()) {
    area += v;
    rough += v * texture[i]!;
    if (i < width) top += v / width;
  }
  const share = area / data.length;
  return smooth(0.3, 0.9, top) * smooth(0.02, 0.08, share) * smooth(0.03, 0.01, rough / (area + 1)) * smooth(0.95, 0.8, share);
}

/** What stands out from the colours at the picture's rim: a rough start, whatever its confidence says. @returns null where nothing does */
export function findObject(picture: Picture): FoundRegion | null {
  const { small, grown } = sizesOf(picture);
  const { width, height } = small;
  const n = width * height;
  const lab = oklab(small, 0.6);
  const edge = Math.max(3, Math.round(Math.min(width, height) * 0.05));
  const isRim = (i: number): boolean => {
    const [x, y] = [i % width, Math.floor(i / width)];
    return x < edge || y < edge || x >= width - edge || y >= height - edge;
  };
  const standsOut = residualOf(lab, width, height, isRim);
  const rim = mixtureOf(lab, 3, n, isRim, 5, LEAST_VARIANCE);
  const usual = Array.from({ length: n }, (_, i) => i)
    .filter(isRim)
    .map(rim)
    .sort((a, b) => a - b);
  const rare = usual[Math.floor(usual.length * 0.05)]!;
  let object = createPlane(width, height);
  for (let i = 0; i < n; i++) {
    const [x, y] = [((i % width) / width) * 2 - 1, (Math.floor(i / width) / height) * 2 - 1];
    const central = 0.35 + 0.65 * Math.exp(-1.1 * (x * x + y * y));
    object.data[i] = Math.min(1, smooth(0.03, 0.12, standsOut[i]!) * smooth(0.5, -3, Math.log(rim(i) / rare)) * central * 1.2);
  }
  // Colours of either side, estimated anew: a soft cousin of iterated graph cuts.
  const guide = guideOf(small, small, 6, 1e-3);
  for (let round = 0; round < 6; round++) {
    const now = guide(object);
    const inside = mixtureOf(lab, 3, n, (i) => now.data[i]! > 0.6, 5, LEAST_VARIANCE);
    const outside = mixtureOf(lab, 3, n, (i) => now.data[i]! < 0.25 || (isRim(i) && now.data[i]! < 0.5), 6, LEAST_VARIANCE);
    const near = boxMean(
      map(now, (v) => (v > 0.5 ? 1 : 0)),
      14,
    );
    object = map(now, (v, i) => {
      const density = inside(i);
      return Math.min(1, Math.max(0, 0.35 * v + 0.65 * (density / (density + outside(i))) * smooth(0.02, 0.25, near.data[i]!)));
    });
  }
  const share = object.data.reduce((total, v) => total + smooth(0.3, 0.7, v), 0) / n;
  return share > 0.005 && share < 0.85 ? { role: 'object', person: null, mask: grown(object, 0.3, 6), sure: 'rough start' } : null;
}

/** How far each colour is from a smooth surface of second degree through the colours of the rim, fitted so that strays count little. */
function residualOf(lab: Float32Array, width: number, height: number, isRim: (i: number) => boolean): Float32Array {
  const n = width * height;
  const basis = (i: number): number[] => {
    const [x, y] = [((i % width) / width) * 2 - 1, (Math.floor(i / width) / height) * 2 - 1];
    return [1, x, y, x * x, x * y, y * y];
  };
  const residual = new Float32Array(n);
  const weights = new Float32Array(n).map((_, i) => (isRim(i) ? 1 : 0));
  for (let round = 0; round < 3; round++) {
    const rows = Array.from({ length: 6 }, () => new Float64Array(9));
    for (let i = 0; i < n; i++) {
      if (weights[i] === 0) continue;
      const b = basis(i);
      for (let p = 0; p < 6; p++) {
        for (let q = 0; q < 6; q++) rows[p]![q]! += weights[i]! * b[p]! * b[q]!;
        for (let c = 0; c < 3; c++) rows[p]![6 + c]! += weights[i]! * b[p]! * lab[3 * i + c]!;
      }
    }
    solve(rows);
    for (let i = 0; i < n; i++) {
      const b = basis(i);
      let sum = 0;
      for (let c = 0; c < 3; c++) sum += (lab[3 * i + c]! - b.reduce((total, v, p) => total + v * rows[p]![6 + c]!, 0)) ** 2;
      residual[i] = Math.sqrt(sum);
      weights[i] = isRim(i) ? 1 / (1 + (residual[i]! / 0.05) ** 2) : 0;
    }
  }
  return residual;
}

/** Gauss and Jordan, in place: what stands behind the square matrix becomes its solution. */
function solve(rows: readonly Float64Array[]): void {
  for (const [p, row] of rows.entries()) {
    row[p]! += 1e-6;
    const pivot = row[p]!;
    for (let q = 0; q < row.length; q++) row[q]! /= pivot;
    for (const [r, other] of rows.entries()) {
      if (r === p) continue;
      const times = other[p]!;
      for (let q = 0; q < row.length; q++) other[q]! -= times * row[q]!;
    }
  }
}
