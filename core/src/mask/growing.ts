/**
 * What belongs together with some pixels and not with others: random walks on a grid whose steps are the likelier the more alike two
 * neighbours are (L. Grady, "Random Walks for Image Segmentation", IEEE PAMI 28, 2006), with what colours say by themselves as a prior
 * ("Multilabel Random Walker Image Segmentation Using Prior Models", CVPR 2005).
 */
import { mixtureOf } from '../base/mixture.ts';
import type { Size } from '../base/geometry.ts';
import { clamp } from '../base/number.ts';
import type { OklabPlanes } from './part.ts';

/** A difference of neighbours, in deltaEOK2 times 100, at which a step becomes unlikely. */
const UNLIKE = 3;
/** A step is never quite impossible. */
const LEAST_STEP = 1e-4;
/** How much a pixel's colour counts beside its neighbours. */
const PRIOR = 0.01;
/** How much counts, of that, that most of a photograph is not what is looked for. */
const OUTSIDE = 0.05;
/** Gaussians in the mixtures of colours, and the least variance of each. */
const [PARTS_INSIDE, PARTS_OUTSIDE, LEAST_VARIANCE] = [6, 8, 4];
/** Grids below this are solved at once; larger ones begin with what a grid of half the size says. */
const COARSEST = 60;
const SWEEPS = 20;
/** Successive over-relaxation (Young 1954): how far each step goes beyond the mean of the neighbours. */
const OVER = 1.7;
/** Chances below this are none: numbers that get ever smaller are slow to reckon with. */
const NOTHING = 1e-7;
/** What is joined with the strokes inside through pixels that belong to it at least this much is kept. */
const JOINED = 0.5;

interface Grid extends Size {
  readonly lab: OklabPlanes;
  /** 1 inside, -1 outside, 0 not known. */
  readonly seeds: Int8Array;
  /** How much the colour speaks for inside, and for outside. */
  readonly inside: Float32Array;
  readonly outside: Float32Array;
}

/**
 * How much each pixel belongs to the seeds inside, 0..1; nothing that is not joined with one.
 * @param seeds 1 inside, -1 outside, 0 for what is to be found; there must be some of both
 */
export function grow(lab: OklabPlanes, { width, height }: Size, seeds: Int8Array): Float32Array {
  const n = width * height;
  const colours = new Float32Array(3 * n);
  for (let i = 0; i < n; i++) {
    colours[3 * i] = lab.l[i]!;
    colours[3 * i + 1] = lab.a[i]!;
    colours[3 * i + 2] = lab.b[i]!;
  }
  const mixture = (side: 1 | -1, most: number): ((i: number) => number) => {
    const count = seeds.reduce((sum, seed) => sum + (seed === side ? 1 : 0), 0);
    return mixtureOf(colours, 3, n, (i) => seeds[i] === side, Math.max(1, Math.min(most, count >> 2)), LEAST_VARIANCE);
  };
  const within = mixture(1, PARTS_INSIDE);
  const without = mixture(-1, PARTS_OUTSIDE);
  const inside = new Float32Array(n);
  const outside = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    const a = within(i);
    const b = without(i);
    inside[i] = a / (a + b);
    outside[i] = b / (a + b) + OUTSIDE;
  }
  const out = solve({ width, height, lab, seeds, inside, outside }, PRIOR);
  keepJoined(out, seeds, width, height);
  return out;
}

/** The chance that a walk from each pixel ends inside. */
function solve(grid: Grid, prior: number): Float32Array {
  const { width, height, seeds, inside, outside } = grid;
  const out = new Float32Array(width * height).fill(0.5);
  if (Math.max(width, height) > COARSEST) {
    const half = halved(grid);
    // A step there is two here, and its pixel four.
    const coarse = solve(half, prior * 4);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        out[y * width + x] = coarse[Math.min(half.height - 1, y >> 1) * half.width + Math.min(half.width - 1, x >> 1)]!;
  }
  for (let i = 0; i < out.length; i++) if (seeds[i] !== 0) out[i] = seeds[i]! > 0 ? 1 : 0;
  const { right, down, falling, rising } = stepsOf(grid);
  // With a rim around it, to which no step leads, no pixel has to ask where it is.
  const wide = width + 2;
  const x = rimmed(out, width, height);
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    const forth = sweep % 2 === 0;
    for (let row = 0; row < height; row++) {
      const y = forth ? row : height - 1 - row;
      for (let column = 0; column < width; column++) {
        const at = forth ? column : width - 1 - column;
        const k = y * width + at;
        if (seeds[k] !== 0) continue;
        const i = (y + 1) * wide + at + 1;
        const w0 = right[i - 1]!;
        const w1 = right[i]!;
        const w2 = down[i - wide]!;
        const w3 = down[i]!;
        const w4 = falling[i - wide - 1]!;
        const w5 = falling[i]!;
        const w6 = rising[i - wide + 1]!;
        const w7 = rising[i]!;
        const weight = prior * (inside[k]! + outside[k]!) + w0 + w1 + w2 + w3 + w4 + w5 + w6 + w7;
        const sum =
          prior * inside[k]! +
          w0 * x[i - 1]! +
          w1 * x[i + 1]! +
          w2 * x[i - wide]! +
          w3 * x[i + wide]! +
          w4 * x[i - wide - 1]! +
          w5 * x[i + wide + 1]! +
          w6 * x[i - wide + 1]! +
          w7 * x[i + wide - 1]!;
        const next = x[i]! + OVER * (sum / weight - x[i]!);
        x[i] = next > NOTHING || next < -NOTHING ? next : 0;
      }
    }
  }
  for (let y = 0, i = 0; y < height; y++) for (let at = 0; at < width; at++, i++) out[i] = clamp(x[(y + 1) * wide + at + 1]!, 0, 1);
  return out;
}

/** A plane with a rim of zeros around it. */
function rimmed(plane: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array((width + 2) * (height + 2));
  for (let y = 0; y < height; y++) out.set(plane.subarray(y * width, (y + 1) * width), (y + 1) * (width + 2) + 1);
  return out;
}

/** Weights of the steps from each pixel to the right, down, and along both diagonals downwards, with a rim of zeros. */
function stepsOf({ width, height, lab: { l, a, b } }: Grid): Record<'right' | 'down' | 'falling' | 'rising', Float32Array> {
  const n = width * height;
  const [right, down, falling, rising] = [new Float32Array(n), new Float32Array(n), new Float32Array(n), new Float32Array(n)];
  const step = (i: number, j: number): number =>
    LEAST_STEP + Math.exp(-((l[i]! - l[j]!) ** 2 + (a[i]! - a[j]!) ** 2 + (b[i]! - b[j]!) ** 2) / (2 * UNLIKE * UNLIKE));
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const more = x + 1 < width;
      const lower = y + 1 < height;
      if (more) right[i] = step(i, i + 1);
      if (lower) down[i] = step(i, i + width);
      if (more && lower) falling[i] = Math.SQRT1_2 * step(i, i + width + 1);
      if (x > 0 && lower) rising[i] = Math.SQRT1_2 * step(i, i + width - 1);
    }
  const rim = (plane: Float32Array): Float32Array => rimmed(plane, width, height);
  return { right: rim(right), down: rim(down), falling: rim(falling), rising: rim(rising) };
}

function halved({ width, height, lab, seeds, inside, outside }: Grid): Grid {
  const half = { width: width >> 1, height: height >> 1 };
  const mean = (of: Float32Array): Float32Array => {
    const out = new Float32Array(half.width * half.height);
    for (let y = 0, i = 0; y < half.height; y++)
      for (let x = 0; x < half.width; x++, i++) {
        const k = 2 * (y * width + x);
        out[i] = (of[k]! + of[k + 1]! + of[k + width]! + of[k + width + 1]!) / 4;
      }
    return out;
  };
  const side = mean(Float32Array.from(seeds));
  return {
    ...half,
    lab: { l: mean(lab.l), a: mean(lab.a), b: mean(lab.b) },
    seeds: Int8Array.from(side, Math.sign),
    inside: mean(inside),
    outside: mean(outside),
  };
}

/** Takes away what is not joined with a seed inside. */
function keepJoined(out: Float32Array, seeds: Int8Array, width: number, height: number): void {
  const joined = new Uint8Array(out.length);
  const open: number[] = [];
  const visit = (i: number): void => {
    if (joined[i] === 1 || out[i]! < JOINED) return;
    joined[i] = 1;
    open.push(i);
  };
  for (let i = 0; i < out.length; i++) if (seeds[i] === 1) visit(i);
  for (let i = open.pop(); i !== undefined; i = open.pop()) {
    const x = i % width;
    if (x > 0) visit(i - 1);
    if (x + 1 < width) visit(i + 1);
    if (i >= width) visit(i - width);
    if (i < width * (height - 1)) visit(i + width);
  }
  for (let i = 0; i < out.length; i++) if (joined[i] === 0) out[i] = 0;
}
