/** A line on the photograph as numbers that can be typed: where its middle is, its angle, and its length. */
import type { TypedNumber } from './handle.ts';
import { toTenth } from './number.ts';

interface Spot {
  readonly x: number;
  readonly y: number;
}
/** Settings with a line from one place to another, in pixels of the full photograph. */
interface WithLine {
  from: { x: number; y: number };
  to: { x: number; y: number };
}

const FAR = 1e5;

/** The middle, the angle (degrees clockwise from "to the right") and the length of a line. */
function numbersOf({ from, to }: { readonly from: Spot; readonly to: Spot }): Record<'x' | 'y' | 'angle' | 'length', number> {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  return { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2, angle: (Math.atan2(dy, dx) * 180) / Math.PI, length: Math.hypot(dx, dy) };
}

/** Settings with a line of their own: each number changes that line and leaves the others as they are. */
export function lineNumbers<S extends WithLine>(): readonly TypedNumber<S>[] {
  const number = (key: 'x' | 'y' | 'angle' | 'length', rest: Omit<TypedNumber<S>, 'get' | 'set'>): TypedNumber<S> => ({
    ...rest,
    get: (settings) => toTenth(numbersOf(settings)[key]),
    set(settings, value) {
      const wanted = numbersOf(settings);
      wanted[key] = value;
      const { x, y, angle, length } = wanted;
      const half = { x: (length / 2) * Math.cos((angle * Math.PI) / 180), y: (length / 2) * Math.sin((angle * Math.PI) / 180) };
      Object.assign(settings.from, { x: toTenth(x - half.x), y: toTenth(y - half.y) });
      Object.assign(settings.to, { x: toTenth(x + half.x), y: toTenth(y + half.y) });
    },
  });
  return [
    number('angle', { label: 'Angle', unit: '°', min: -180, max: 180 }),
    number('length', { label: 'Length', unit: 'px', min: 1, max: FAR }),
    number('x', { label: 'X', unit: 'px', min: -FAR, max: FAR }),
    number('y', { label: 'Y', unit: 'px', min: -FAR, max: FAR }),
  ];
}
