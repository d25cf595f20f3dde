/** Masks that follow a picture's edges: the fast guided filter, with a guide in colour. */
import { boxMean as meanOf, guideLines, type GuideLines } from '@umbo/core/filter';
import { channel, createPlane, type Picture, type Plane } from './picture.ts';

/** Means over squares of 2 * radius + 1 pixels, clipped at the borders. */
export const boxMean = ({ width, height, data }: Plane, radius: number): Plane => ({
  width,
  height,
  data: meanOf(data, width, height, radius),
});

/**
 * A guide made ready once for many masks: lines are found on the small picture, and applied on the large one.
 * @returns what brings a mask of the small picture's size to the edges of the large one
 */
export function guideOf(large: Picture, small: Picture, radius: number, epsilon: number): (mask: Plane) => Plane {
  const [r, g, b] = [0, 1, 2].map((c) => channel(small, c).data) as [Float32Array, Float32Array, Float32Array];
  const linesOf = guideLines([r, g, b], small.width, small.height, radius, epsilon);
  return ({ data }) => applyLines(linesOf(data), small, large);
}

/** The lines of a small picture, between its pixels, on the colours of the large one. */
function applyLines(lines: GuideLines, { width, height }: { width: number; height: number }, large: Picture): Plane {
  const [r, g, b, k] = lines;
  const out = createPlane(large.width, large.height);
  const [sx, sy] = [width / large.width, height / large.height];
  for (let y = 0; y < large.height; y++) {
    const v = Math.min(height - 1, Math.max(0, (y + 0.5) * sy - 0.5));
    const y0 = Math.floor(v);
    const dy = v - y0;
    const [top, bottom] = [y0 * width, Math.min(height - 1, y0 + 1) * width];
    for (let x = 0; x < large.width; x++) {
      const u = Math.min(width - 1, Math.max(0, (x + 0.5) * sx - 0.5));
      const x0 = Math.floor(u);
      const dx = u - x0;
      const x1 = x0 + 1 < width ? x0 + 1 : x0;
      const [p, q, s, t] = [(1 - dx) * (1 - dy), dx * (1 - dy), (1 - dx) * dy, dx * dy];
      const [i0, i1, i2, i3] = [top + x0, top + x1, bottom + x0, bottom + x1];
      const i = y * large.width + x;
      const value =
        (r[i0]! * p + r[i1]! * q + r[i2]! * s + r[i3]! * t) * large.data[3 * i]! +
        (g[i0]! * p + g[i1]! * q + g[i2]! * s + g[i3]! * t) * large.data[3 * i + 1]! +
        (b[i0]! * p + b[i1]! * q + b[i2]! * s + b[i3]! * t) * large.data[3 * i + 2]! +
        k[i0]! * p +
        k[i1]! * q +
        k[i2]! * s +
        k[i3]! * t;
      out.data[i] = value < 0 ? 0 : value > 1 ? 1 : value;
    }
  }
  return out;
}
