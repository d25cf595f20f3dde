import { stretchOf } from '../../base/stretch.ts';
import { Type, type Static } from '@sinclair/typebox';
import { union, type Rect } from '../../base/geometry.ts';
import type { Handle, TypedNumber } from '../../base/handle.ts';
import { newPart, partSchema, position, type MaskPartKind } from '../part.ts';
import { clamp, smoothStep, toTenth } from '../../base/number.ts';

const radius = Type.Number({ minimum: 1, maximum: 1e6 });
const schema = partSchema('ellipse', {
  /** Centre and half-axes in pixels of the full photograph, and the turn of the first axis in degrees, clockwise. */
  x: position,
  y: position,
  rx: radius,
  ry: radius,
  rotate: Type.Number({ minimum: -180, maximum: 180 }),
  /** Share of the way from the centre over which it falls from full to nothing, in percent: 0 has a hard rim, 100 falls from the centre on. */
  soft: Type.Number({ minimum: 0, maximum: 100 }),
});
export type EllipsePart = Static<typeof schema>;

/** The rectangle about it, with a pixel around. */
function boundsOf({ x, y, rx, ry, rotate }: EllipsePart): Rect {
  const angle = (rotate * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [w, h] = [Math.hypot(rx * cos, ry * sin) + 1, Math.hypot(rx * sin, ry * cos) + 1];
  return { x: x - w, y: y - h, width: 2 * w, height: 2 * h };
}

const MIDDLE = 'Ellipse’s middle';
const WIDTH = 'Ellipse’s width and turn';
const HEIGHT = 'Ellipse’s height';
const SOFT = 'Ellipse’s softness';
/** The handle of the softness runs from the rim, for none, to this share of the way out, so that it never hides the middle. */
const NEAREST = 0.15;

const FAR = 1e5;
const number = (key: 'x' | 'y' | 'rx' | 'ry', label: string, factor: number, min: number): TypedNumber<EllipsePart> => ({
  label,
  unit: 'px',
  min,
  max: FAR,
  get: (part) => toTenth(part[key] * factor),
  set: (part, value) => void (part[key] = toTenth(value / factor)),
});
const NUMBERS = [number('rx', 'Width', 2, 2), number('ry', 'Height', 2, 2), number('x', 'X', 1, -FAR), number('y', 'Y', 1, -FAR)];
export const ellipse: MaskPartKind<EllipsePart> = {
  kind: 'ellipse',
  travels: 'to be checked',
  drawn: true,
  name: 'Ellipse',
  schema,
  controls: [
    { key: 'soft', label: 'Softness', step: 1, unit: '%' },
    { key: 'rotate', label: 'Turn', step: 1, unit: '°', signed: true },
  ],
  create: (id, combine, { width, height }) => ({
    ...newPart('ellipse', id, combine),
    x: width / 2,
    y: height / 2,
    rx: width / 4,
    ry: height / 4,
    rotate: 0,
    soft: 50,
  }),
  cover(part, view, out) {
    const { region } = view;
    const { toPhotograph } = stretchOf(view);
    const angle = (part.rotate * Math.PI) / 180;
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    // The rim is at least a pixel of the picture wide, so that hard rims stay smooth at every scale.
    const pixel = Math.sqrt(toPhotograph.x * toPhotograph.y) / Math.sqrt(part.rx * part.ry);
    const fall = Math.max(part.soft / 100, pixel);
    const outer = 1 + (part.soft / 100 < pixel ? pixel / 2 : 0);
    for (let y = 0, i = 0; y < region.height; y++) {
      for (let x = 0; x < region.width; x++, i++) {
        const [px, py] = [region.x + x + 0.5, region.y + y + 0.5];
        const dx = px * toPhotograph.x - part.x;
        const dy = py * toPhotograph.y - part.y;
        const u = (dx * cos + dy * sin) / part.rx;
        const v = (dy * cos - dx * sin) / part.ry;
        const t = (outer - Math.sqrt(u * u + v * v)) / fall;
        out[i] = smoothStep(t);
      }
    }
  },
  // Beyond its rim it covers nothing, before and after.
  changedArea: (before, after) => union(boundsOf(before), boundsOf(after)),
  fit(part, fit) {
    part.x = fit.x(part.x);
    part.y = fit.y(part.y);
    part.rx = Math.max(1, fit.size(part.rx));
    part.ry = Math.max(1, fit.size(part.ry));
  },
  handles({ x, y, rx, ry, rotate, soft }): Handle[] {
    const inner = NEAREST + (1 - NEAREST) * (1 - soft / 100);
    const angle = (rotate * Math.PI) / 180;
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    return [
      { name: MIDDLE, x, y },
      { name: WIDTH, x: x + rx * cos, y: y + rx * sin },
      { name: HEIGHT, x: x - ry * sin, y: y + ry * cos },
      { name: SOFT, x: x - rx * cos * inner, y: y - rx * sin * inner },
    ];
  },
  numbers: () => NUMBERS,
  moveHandle(part, name, x, y) {
    const [dx, dy] = [x - part.x, y - part.y];
    if (name === MIDDLE) Object.assign(part, { x: toTenth(x), y: toTenth(y) });
    else if (name === SOFT) part.soft = Math.round(clamp((1 - (Math.hypot(dx, dy) / part.rx - NEAREST) / (1 - NEAREST)) * 100, 0, 100));
    else if (name === HEIGHT) part.ry = Math.max(1, toTenth(Math.hypot(dx, dy)));
    else {
      part.rx = Math.max(1, toTenth(Math.hypot(dx, dy)));
      part.rotate = toTenth((Math.atan2(dy, dx) * 180) / Math.PI);
    }
  },
  narrow(part) {
    part.rx = Math.max(1, toTenth(part.rx * 0.7));
    part.ry = Math.max(1, toTenth(part.ry * 0.7));
  },
  draw(part, from, to, even) {
    const [rx, ry] = [Math.abs(to.x - from.x) / 2, Math.abs(to.y - from.y) / 2];
    const round = Math.max(rx, ry);
    const side = (by: number, radius: number): number => Math.sign(by) * (even ? round : radius);
    part.x = toTenth(from.x + side(to.x - from.x, rx));
    part.y = toTenth(from.y + side(to.y - from.y, ry));
    part.rx = Math.max(1, toTenth(even ? round : rx));
    part.ry = Math.max(1, toTenth(even ? round : ry));
    part.rotate = 0;
  },
  summary: () => 'Ellipse',
};
