import { toTenth } from '../../base/number.ts';
import { stretchArea, stretchOf } from '../../base/stretch.ts';
import { Type, type Static } from '@sinclair/typebox';
import { intersect, isEmpty, union, type Rect } from '../../base/geometry.ts';
import type { Handle } from '../../base/handle.ts';
import { newPart, partSchema, position, type MaskPartKind } from '../part.ts';

const schema = partSchema('outline', {
  /** Closed shapes, each as x, y; x, y; ... in pixels of the full photograph. What two of them overlap is outside again. */
  shapes: Type.Array(Type.Array(position, { minItems: 6, maxItems: 8000 }), { maxItems: 100 }),
});
export type OutlinePart = Static<typeof schema>;

/** Lines per pixel on which the shape is cut; along a line its cover is exact. */
const LINES = 4;
/** Shapes with more corners than this are shaped by moving them as a whole. */
const CORNERS_SHOWN = 40;
function areaOf(shape: readonly number[]): Rect {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < shape.length; i += 2) {
    x0 = Math.min(x0, shape[i]!);
    x1 = Math.max(x1, shape[i]!);
    y0 = Math.min(y0, shape[i + 1]!);
    y1 = Math.max(y1, shape[i + 1]!);
  }
  return { x: x0 - 1, y: y0 - 1, width: x1 - x0 + 2, height: y1 - y0 + 2 };
}

const areaOfAll = (shapes: readonly (readonly number[])[]): Rect => shapes.map(areaOf).reduce(union, { x: 0, y: 0, width: 0, height: 0 });

export const outline: MaskPartKind<OutlinePart> = {
  kind: 'outline',
  travels: 'to be checked',
  drawn: true,
  tool: 'outline',
  name: 'Outline',
  schema,
  controls: [],
  create: (id, combine) => ({ ...newPart('outline', id, combine), shapes: [] }),

  /** By the even-odd rule: on each line, what lies between an odd and an even crossing is inside. */
  cover({ shapes }, view, out) {
    const { region } = view;
    const { toPicture } = stretchOf(view);
    out.fill(0);
    const touched = intersect(stretchArea(toPicture, areaOfAll(shapes)), region);
    if (shapes.length === 0 || isEmpty(touched)) return;
    const edges = shapes.flatMap((shape) => {
      const list: [number, number, number, number][] = [];
      for (let i = 0; i < shape.length; i += 2) {
        const k = (i + 2) % shape.length;
        const [ax, ay] = [shape[i]! * toPicture.x, shape[i + 1]! * toPicture.y];
        const [bx, by] = [shape[k]! * toPicture.x, shape[k + 1]! * toPicture.y];
        if (ay !== by) list.push(ay < by ? [ax, ay, bx, by] : [bx, by, ax, ay]);
      }
      return list;
    });
    edges.sort((a, b) => a[1] - b[1]);
    const [left, right] = [region.x, region.x + region.width];
    let active: typeof edges = [];
    let next = 0;
    for (let y = touched.y; y < touched.y + touched.height; y++)
      for (let line = 0; line < LINES; line++) {
        const cut = y + (line + 0.5) / LINES;
        while (next < edges.length && edges[next]![1] <= cut) active.push(edges[next++]!);
        active = active.filter((edge) => edge[3] > cut);
        const crossings = active.map(([ax, ay, bx, by]) => ax + ((bx - ax) * (cut - ay)) / (by - ay)).sort((a, b) => a - b);
        for (let k = 0; k + 1 < crossings.length; k += 2) {
          const from = Math.max(left, crossings[k]!);
          const to = Math.min(right, crossings[k + 1]!);
          if (to <= from) continue;
          const row = (y - region.y) * region.width - region.x;
          for (let x = Math.floor(from); x < to; x++) out[row + x] = out[row + x]! + (Math.min(x + 1, to) - Math.max(x, from)) / LINES;
        }
      }
    for (let i = 0; i < out.length; i++) if (out[i]! > 1) out[i] = 1;
  },

  changedArea: (before, after) => union(areaOfAll(before.shapes), areaOfAll(after.shapes)),
  fit(part, fit) {
    part.shapes = part.shapes.map((shape) => shape.map((v, i) => (i % 2 === 0 ? fit.x(v) : fit.y(v))));
  },
  handles: ({ shapes }): Handle[] =>
    shapes.flatMap((shape, s) =>
      shape.length > CORNERS_SHOWN * 2
        ? []
        : Array.from({ length: shape.length / 2 }, (_, i) => ({
            name: `Corner ${i + 1} of outline ${s + 1}`,
            x: shape[i * 2]!,
            y: shape[i * 2 + 1]!,
          })),
    ),
  moveHandle(part, name, x, y) {
    const [corner, shape] = (name.match(/\d+/g) ?? []).map(Number) as [number, number];
    const points = part.shapes[shape - 1];
    if (!points) return;
    points[corner * 2 - 2] = toTenth(x);
    points[corner * 2 - 1] = toTenth(y);
  },
  summary: ({ shapes }) => `Outline, ${shapes.length} ${shapes.length === 1 ? 'shape' : 'shapes'}`,
};
