import type { Measurement } from './measurement.ts';

export interface Level {
  /** Degrees clockwise by which the picture's long lines become level or upright, in hundredths. */
  readonly angle: number;
}

/** Lines further off than this are not meant to be level. */
const FURTHEST = 10;
/** Steps in which angles are tried, first all, then about the best. */
const [COARSE, FINE] = [0.5, 0.05];
/** How far an edge's own direction may be off the angle that is tried, in degrees. */
const TOLERANCE = 4;
/** Edges that are looked at, the strongest; and the share of the pixels that they are at most. */
const [EDGES, SHARE] = [24_000, 0.12];
/** How clearly the best angle must stand out from the usual one. */
const CLEARLY = 2.2;

interface Edge {
  readonly x: number;
  readonly y: number;
  /** By how many degrees its line is turned clockwise from level, or from upright. */
  readonly off: number;
  readonly upright: boolean;
  readonly weight: number;
}

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const steps = (from: number, to: number, step: number): number[] =>
  Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => from + i * step);

/** The strongest edges near to level and upright, by Sobel's operator on the mean of the channels. */
function edgesOf({
  area: { width, height },
  r,
  g,
  b,
}: { area: { width: number; height: number } } & Record<'r' | 'g' | 'b', Uint16Array>): Edge[] {
  const at = (i: number): number => (r[i]! + g[i]! + b[i]!) / 3;
  const found: Edge[] = [];
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const [nw, n, ne] = [at(i - width - 1), at(i - width), at(i - width + 1)];
      const [w, e] = [at(i - 1), at(i + 1)];
      const [sw, s, se] = [at(i + width - 1), at(i + width), at(i + width + 1)];
      const gx = ne + 2 * e + se - nw - 2 * w - sw;
      const gy = sw + 2 * s + se - nw - 2 * n - ne;
      const weight = Math.hypot(gx, gy);
      if (weight === 0) continue;
      const along = (Math.atan2(gx, -gy) * 180) / Math.PI;
      const quarters = Math.round(along / 90);
      const off = along - 90 * quarters;
      if (Math.abs(off) <= FURTHEST + TOLERANCE) found.push({ x, y, off, upright: quarters % 2 !== 0, weight });
    }
  found.sort((one, other) => other.weight - one.weight);
  return found.slice(0, Math.min(EDGES, Math.floor(width * height * SHARE)));
}

/** How sharply edges gather in lines of this direction: the squares of what falls into each of them. */
function sharpness(edges: readonly Edge[], size: number, angle: number): number {
  const [sin, cos] = [Math.sin((angle * Math.PI) / 180), Math.cos((angle * Math.PI) / 180)];
  const lines = [new Float64Array(3 * size), new Float64Array(3 * size)] as const;
  for (const { x, y, off, upright, weight } of edges) {
    const near = 1 - Math.abs(off - angle) / TOLERANCE;
    if (near <= 0) continue;
    const place = upright ? x * cos + y * sin : y * cos - x * sin;
    const line = lines[upright ? 1 : 0];
    const bin = Math.floor(place + size);
    const share = place + size - bin;
    line[bin] = line[bin]! + weight * near * (1 - share);
    line[bin + 1] = line[bin + 1]! + weight * near * share;
  }
  return lines.reduce((sum, line) => line.reduce((all, v) => all + v * v, sum), 0);
}

/**
 * The angle at which a picture is level, by the lines that its edges gather in; null where none stand out.
 * Source: the projection profile of W. Postl, "Detection of linear oblique structures and skew scan in digitized documents" (ICPR 1986),
 * here of edges instead of ink.
 */
export const level: Measurement<'level', object, Level | null> = {
  kind: 'level',
  needs: 'picture',
  measure(_settings, { picture }) {
    const edges = edgesOf(picture);
    if (edges.length < 50) return null;
    const size = Math.max(picture.area.width, picture.area.height);
    const scoreOf = (angle: number): number => sharpness(edges, size, angle);
    const best = (angles: readonly number[]): { angle: number; score: number; usual: number } => {
      const scores = angles.map(scoreOf);
      const top = scores.indexOf(Math.max(...scores));
      return { angle: angles[top]!, score: scores[top]!, usual: median(scores) };
    };
    const { angle: about, score, usual } = best(steps(-FURTHEST, FURTHEST, COARSE));
    if (score < CLEARLY * usual) return null;
    const { angle } = best(steps(about - COARSE, about + COARSE, FINE));
    return { angle: -Math.round(angle * 100) / 100 || 0 };
  },
};
