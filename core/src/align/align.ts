/**
 * How one photograph lies on another of the same thing, however differently they are exposed: by phase correlation of the directions of
 * gradients, coarse for all of them at once, then fine for many places, of which those decide that agree.
 */
import { peakOf } from './correlation.ts';
import { fft2 } from './fft2.ts';
import type { Motion } from './motion.ts';
import { gradientsOf, halved, squareOf, type Gradients, type Grey } from './gradients.ts';

export interface Alignment extends Motion {
  /** How many places could be told, and how many of them agree. */
  readonly places: number;
  readonly agree: number;
  /** How far those that agree are off, in pixels in the mean. */
  readonly residual: number;
}

const STILL: Motion = { dx: 0, dy: 0, turn: 0, scale: 1 };

/** The coarse search: the largest side, turns in degrees, and scales. */
const COARSE_SIDE = 256;
const TURNS = Array.from({ length: 17 }, (_, i) => (i - 8) * 0.45);
const SCALES = [0.97, 0.985, 1, 1.015, 1.03];

/** Fine rounds: the side of a place's square, and how far off it may be. */
const ROUNDS = [
  { level: 2, side: 128, limit: 20 },
  { level: 1, side: 256, limit: 24 },
  { level: 0, side: 256, limit: 12 },
  { level: 0, side: 128, limit: 4 },
  { level: 0, side: 128, limit: 2 },
] as const;
const SMALLEST = 64;
/** Places of a round at most. */
const PLACES = 120;
/** Standard deviations from which a peak is one, and pixels within which places agree. */
const SURE = 6;
const WITHIN = 0.6;
/** Fewer that agree, or a smaller share of them, is chance. */
const LEAST = 8;
const LEAST_SHARE = 0.3;

interface Told {
  readonly x: number;
  readonly y: number;
  readonly dx: number;
  readonly dy: number;
  readonly weight: number;
}

/**
 * Finds how the second picture lies on the first: up to a sixth of its side off, 3.6° turned and 3 % larger or smaller.
 * @param perspective whether one side may be up to a tenth nearer than the other
 * @param step is told the share that is done; throws to stop
 * @returns null when they do not belong together, or nothing can be told
 */
export function align(
  first: Grey,
  second: Grey,
  step: (share: number) => void = () => undefined,
  { perspective = false }: { perspective?: boolean } = {},
): Alignment | null {
  const levels: { a: Grey; b: Grey }[] = [{ a: first, b: second }];
  while (Math.max(levels.at(-1)!.a.width, levels.at(-1)!.a.height) > COARSE_SIDE)
    levels.push({ a: halved(levels.at(-1)!.a), b: halved(levels.at(-1)!.b) });
  const last = levels.length - 1;
  let motion = coarse(levels[last]!.a, levels[last]!.b, (share) => step(share * 0.3));
  let told: readonly Told[] = [];
  let at = last;
  for (const [i, { level, side: largest, limit }] of ROUNDS.entries()) {
    if (level > last) continue;
    const finer = 2 ** (at - level);
    motion = { ...motion, dx: motion.dx * finer, dy: motion.dy * finer, ...leant(motion.lean?.[0], motion.lean?.[1], 1 / finer) };
    at = level;
    told = [];
    const { a, b } = levels[level]!;
    // Small enough that there are several beside each other, also where the picture is small.
    const side = Math.min(largest, Math.max(SMALLEST, 2 ** Math.floor(Math.log2(Math.min(a.width, a.height) / 2))));
    if (Math.min(a.width, a.height) < side) continue;
    told = tell(gradientsOf(a), gradientsOf(b), motion, side, Math.min(limit, side / 4));
    const change = solve(told, perspective ? a.width / 2 : null);
    if (!change) continue;
    motion = followed(motion, change);
    told = told.map((one) => ({ ...one, ...apart(one, change) }));
    step(0.3 + (0.7 * (i + 1)) / ROUNDS.length);
  }
  const off = told.map(({ dx, dy }) => Math.hypot(dx, dy)).filter((v) => v < WITHIN);
  if (off.length < LEAST || off.length < told.length * LEAST_SHARE) return null;
  return { ...motion, places: told.length, agree: off.length, residual: off.reduce((sum, v) => sum + v, 0) / off.length };
}

/** All of both at once, turned and scaled in steps. */
function coarse(a: Grey, b: Grey, step: (share: number) => void): Motion {
  const [ga, gb] = [gradientsOf(a), gradientsOf(b)];
  const base = b.width / a.width;
  const whole = fft2(squareOf(ga, 0, 0, COARSE_SIDE, STILL), COARSE_SIDE);
  let best = { score: -Infinity, motion: STILL };
  for (const [i, scale] of SCALES.entries())
    for (const [k, degrees] of TURNS.entries()) {
      const tried = { dx: 0, dy: 0, turn: (degrees * Math.PI) / 180, scale: base * scale };
      const moved = fft2(squareOf(gb, 0, 0, COARSE_SIDE, tried), COARSE_SIDE);
      const { dx, dy, score } = peakOf(whole, moved, COARSE_SIDE, 0.7, COARSE_SIDE / 6);
      if (score > best.score) best = { score, motion: followed(tried, { dx, dy, turn: 0, scale: 0 }) };
      step((i * TURNS.length + k + 1) / (SCALES.length * TURNS.length));
    }
  return best.motion;
}

/** How far single places are off a motion. */
function tell(a: Gradients, b: Gradients, motion: Motion, side: number, limit: number): Told[] {
  const all = Math.floor(a.width / side) * Math.floor(a.height / side) * 4;
  const stride = (side / 2) * Math.max(1, Math.sqrt(all / PLACES));
  const told: Told[] = [];
  for (let y = side / 2; y <= a.height - side / 2; y += stride)
    for (let x = side / 2; x <= a.width - side / 2; x += stride) {
      const [px, py] = [Math.round(x) - a.width / 2, Math.round(y) - a.height / 2];
      const [own, other] = [squareOf(a, px, py, side, STILL), squareOf(b, px, py, side, motion)];
      if (energy(own) < side * side * 2e-4 || energy(other) < side * side * 2e-4) continue;
      const { dx, dy, score } = peakOf(fft2(own, side), fft2(other, side), side, 0.5, limit);
      if (score > SURE && Math.abs(dx) < limit && Math.abs(dy) < limit) told.push({ x: px, y: py, dx, dy, weight: score });
    }
  return told;
}

const energy = (square: Float64Array): number => square.reduce((sum, v) => sum + v * v, 0);

/** A small motion: what it adds to turn and scale, and the shift, in the frame of the first picture. */
type Change = Motion;

/** What is left of a place's distance after a change. */
function apart({ x, y, dx, dy }: Told, c: Change): { dx: number; dy: number } {
  const nearer = c.lean ? c.lean[0] * x + c.lean[1] * y : 0;
  return { dx: dx - (c.dx - c.turn * y + (c.scale - nearer) * x), dy: dy - (c.dy + c.turn * x + (c.scale - nearer) * y) };
}

const leant = (x = 0, y = 0, by = 1): Pick<Motion, 'lean'> => (x === 0 && y === 0 ? {} : { lean: [x * by, y * by] });

/**
 * The change that most places agree on: least squares, those far off counting little (Geman and McClure's weights).
 * @param reach of the picture from its middle, where it may lean; null: it may not
 */
function solve(told: readonly Told[], reach: number | null): Change | null {
  if (told.length < 4) return null;
  let change: Change = { dx: median(told.map(({ dx }) => dx)), dy: median(told.map(({ dy }) => dy)), turn: 0, scale: 0 };
  for (let width = 6, round = 0; round < 24; round++, width = Math.max(0.3, width * 0.75)) {
    const n = reach === null ? 4 : 6;
    const m = Array.from({ length: n }, () => new Float64Array(n + 1));
    for (const one of told) {
      const left = apart(one, change);
      const weight = one.weight / (1 + (left.dx ** 2 + left.dy ** 2) / width ** 2) ** 2;
      const { x, y } = one;
      // What leans is counted in parts of the reach, so that its numbers are about as large as the others.
      const far = reach ?? 1;
      for (const [row, v] of [
        [[1, 0, -y, x, (-x * x) / far, (-x * y) / far], one.dx],
        [[0, 1, x, y, (-x * y) / far, (-y * y) / far], one.dy],
      ] as const)
        for (let i = 0; i < n; i++) {
          for (let j = 0; j < n; j++) m[i]![j]! += weight * row[i]! * row[j]!;
          m[i]![n]! += weight * row[i]! * v;
        }
    }
    const found = gauss(m);
    if (!found) return null;
    const [dx, dy, turn, scale, leanX, leanY] = found;
    change = { dx: dx!, dy: dy!, turn: turn!, scale: scale!, ...leant(leanX, leanY, 1 / (reach ?? 1)) };
  }
  return change;
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1]!;
}

function gauss(m: Float64Array[]): number[] | null {
  for (let i = 0; i < m.length; i++) {
    const pivot = m[i]![i]!;
    if (!(Math.abs(pivot) > 1e-12)) return null;
    for (const [k, row] of m.entries()) {
      if (k === i) continue;
      const f = row[i]! / pivot;
      for (let j = i; j <= m.length; j++) row[j]! -= f * m[i]![j]!;
    }
  }
  return m.map((row, i) => row[m.length]! / row[i]!);
}

/** A motion after a change that was told in the frame of the first picture. */
function followed({ dx, dy, turn, scale, lean = [0, 0] }: Motion, change: Change): Motion {
  const [leanX, leanY] = change.lean ?? [0, 0];
  const [cos, sin] = [Math.cos(turn) * scale, Math.sin(turn) * scale];
  return {
    dx: dx + cos * change.dx - sin * change.dy,
    dy: dy + sin * change.dx + cos * change.dy,
    turn: turn + change.turn,
    scale: scale * (1 + change.scale),
    ...leant(lean[0] + leanX, lean[1] + leanY),
  };
}
