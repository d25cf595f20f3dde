import { stretchOf } from '../../base/stretch.ts';
import { Type, type Static } from '@sinclair/typebox';
import type { Handle } from '../../base/handle.ts';
import { newPart, partSchema, position, type MaskPartKind } from '../part.ts';
import { lineNumbers } from '../../base/line.ts';
import { clamp, smoothStep, toTenth } from '../../base/number.ts';

const point = Type.Object({ x: position, y: position }, { additionalProperties: false });
const schema = partSchema('gradient', {
  /** Full up to here, and on the far side; in pixels of the full photograph. */
  from: point,
  /** Nothing from here on. */
  to: point,
  /** Where on the way it is half, as a share of the way; left out: in the middle. */
  middle: Type.Optional(Type.Number({ minimum: 0.02, maximum: 0.98 })),
});
export type GradientPart = Static<typeof schema>;

/** 15°, to which a gradient is held. */
const STEP = Math.PI / 12;
const BEGINS = 'Gradient mask begins';
const ENDS = 'Gradient mask ends';
const HALF = 'Gradient mask is half';
const NUMBERS = lineNumbers<GradientPart>();

/**
 * The way along a gradient bent so that its half lies elsewhere: Schlick's bias, t / ((1/b - 2)(1 - t) + 1) (C. Schlick, "Fast Alternatives
 * to Perlin's Bias and Gain Functions", Graphics Gems IV, 1994, from memory). @param t 0..1 @param half 0..1, the t that becomes 0.5
 */
const bend = (t: number, half: number): number => {
  const b = 1 - half;
  return t / ((1 / b - 2) * (1 - t) + 1);
};

export const gradient: MaskPartKind<GradientPart> = {
  kind: 'gradient',
  travels: 'to be checked',
  drawn: true,
  name: 'Linear gradient',
  schema,
  controls: [],
  create: (id, combine, { width, height }) => ({
    ...newPart('gradient', id, combine),
    from: { x: width / 2, y: height * 0.25 },
    to: { x: width / 2, y: height * 0.6 },
  }),
  cover({ from, to, middle = 0.5 }, view, out) {
    const { region } = view;
    const { toPhotograph } = stretchOf(view);
    const [dx, dy] = [to.x - from.x, to.y - from.y];
    const length2 = dx * dx + dy * dy;
    for (let y = 0, i = 0; y < region.height; y++) {
      for (let x = 0; x < region.width; x++, i++) {
        const [px, py] = [region.x + x + 0.5, region.y + y + 0.5];
        const along = (px * toPhotograph.x - from.x) * dx + (py * toPhotograph.y - from.y) * dy;
        // Without a length it is a step at its beginning.
        const t = length2 > 0 ? along / length2 : along > 0 ? 1 : 0;
        out[i] = smoothStep(1 - (middle === 0.5 || t <= 0 || t >= 1 ? t : bend(t, middle)));
      }
    }
  },
  changedArea: () => null,
  fit(part, fit) {
    for (const place of [part.from, part.to]) Object.assign(place, { x: fit.x(place.x), y: fit.y(place.y) });
  },
  handles: ({ from, to, middle = 0.5 }): Handle[] => [
    { name: BEGINS, ...from },
    { name: ENDS, ...to },
    { name: HALF, x: from.x + (to.x - from.x) * middle, y: from.y + (to.y - from.y) * middle },
  ],
  numbers: () => NUMBERS,
  moveHandle(part, name, x, y) {
    const [dx, dy] = [part.to.x - part.from.x, part.to.y - part.from.y];
    if (name === HALF) {
      const at = ((x - part.from.x) * dx + (y - part.from.y) * dy) / Math.max(1, dx * dx + dy * dy);
      const half = Math.round(clamp(at, 0.02, 0.98) * 100) / 100;
      if (half === 0.5) delete part.middle;
      else part.middle = half;
    } else Object.assign(name === BEGINS ? part.from : part.to, { x: toTenth(x), y: toTenth(y) });
  },
  draw(part, from, to, even) {
    const [dx, dy] = [to.x - from.x, to.y - from.y];
    const angle = even ? Math.round(Math.atan2(dy, dx) / STEP) * STEP : Math.atan2(dy, dx);
    const length = Math.hypot(dx, dy);
    part.from = { x: toTenth(from.x), y: toTenth(from.y) };
    part.to = { x: toTenth(from.x + length * Math.cos(angle)), y: toTenth(from.y + length * Math.sin(angle)) };
  },
  summary: () => 'Linear gradient',
};
