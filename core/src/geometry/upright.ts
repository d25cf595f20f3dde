/** Geometries that make lines level and rectangles upright. */
import { composed, project, scaling, shift } from '../base/framing.ts';
import type { Size } from '../base/geometry.ts';
import { inverse, multiply, type Matrix } from '../base/matrix.ts';
import { percentOf, toPlane } from './framing.ts';
import { MOST_DEGREES, type Geometry } from './geometry.ts';

export type Place = readonly [number, number];
const DEGREES = 180 / Math.PI;

/**
 * The angle at which a line of the photograph is level, or upright where it is nearer to that.
 * @returns degrees clockwise, between -45 and 45
 * @example
 * levelledBy(noGeometry, { width: 60, height: 40 }, [0, 0], [20, 20]); // → 45
 */
export function levelledBy(geometry: Geometry, photo: Size, from: Place, to: Place): number {
  // Before quarter turns, which change nothing about it, and before the angle.
  const plane = toPlane({ ...geometry, quarters: 0, flipped: false, angle: 0 }, photo);
  const [x0, y0] = project(plane, ...from);
  const [x1, y1] = project(plane, ...to);
  const lies = Math.atan2(y1 - y0, x1 - x0) * DEGREES;
  const off = lies - 90 * Math.round(lies / 90);
  return off === 0 ? 0 : -off;
}

/** The projection that takes four places to the corners of a rectangle. Source: P. Heckbert, "Fundamentals of texture mapping" (1989), 2.2.3. */
function toRectangle(corners: readonly Place[], { width, height }: Size): Matrix {
  const [[x0, y0], [x1, y1], [x2, y2], [x3, y3]] = corners as [Place, Place, Place, Place];
  const [dx1, dx2, sx] = [x1 - x2, x3 - x2, x0 - x1 + x2 - x3];
  const [dy1, dy2, sy] = [y1 - y2, y3 - y2, y0 - y1 + y2 - y3];
  const determinant = dx1 * dy2 - dx2 * dy1;
  const g = (sx * dy2 - dx2 * sy) / determinant;
  const h = (dx1 * sy - sx * dy1) / determinant;
  const fromSquare: Matrix = [
    [x1 - x0 + g * x1, x3 - x0 + h * x3, x0],
    [y1 - y0 + g * y1, y3 - y0 + h * y3, y0],
    [g, h, 1],
  ];
  return multiply(scaling(width, height), inverse(fromSquare));
}

/**
 * The geometry that makes an upright rectangle of four places of the photograph. Its ratio is guessed from the lengths of the sides: seen
 * at an angle it is not known.
 * @param corners clockwise, from the one that becomes the top left
 * @returns null where they are no convex shape, or lie too steep
 */
export function uprightFrom(geometry: Geometry, photo: Size, corners: readonly Place[]): Geometry | null {
  const side = (i: number, j: number): number => Math.hypot(corners[j]![0] - corners[i]![0], corners[j]![1] - corners[i]![1]);
  const size = { width: (side(0, 1) + side(3, 2)) / 2, height: (side(0, 3) + side(1, 2)) / 2 };
  const turns = corners.map(([x, y], i) => {
    const [[x1, y1], [x2, y2]] = [corners[(i + 1) % 4]!, corners[(i + 2) % 4]!];
    return (x1 - x) * (y2 - y1) - (y1 - y) * (x2 - x1);
  });
  if (!turns.every((turn) => turn > 1)) return null;
  // About the photograph's middle, and so that the middle of it has no weight.
  const raw = composed(shift(photo.width / 2, photo.height / 2), toRectangle(corners, size));
  const weight = raw[2][2];
  if (weight === 0) return null;
  const whole = raw.map((row) => row.map((v) => v / weight)) as unknown as Matrix;
  const [a, b, last] = whole;
  // What is left without the last row is turn, stretch and skew; where the middle goes is the crop's business.
  const m = [
    [a[0] - a[2] * last[0], a[1] - a[2] * last[1]],
    [b[0] - b[2] * last[0], b[1] - b[2] * last[1]],
  ] as const;
  const determinant = m[0][0] * m[1][1] - m[0][1] * m[1][0];
  if (!(determinant > 0)) return null;
  const scale = Math.sqrt(determinant);
  const wider = Math.hypot(m[0][0], m[1][0]) / scale;
  const turned = Math.atan2(m[1][0], m[0][0]);
  const [cos, sin] = [Math.cos(turned), Math.sin(turned)];
  const made = {
    angle: turned * DEGREES,
    skew: (100 * (cos * m[0][1] + sin * m[1][1])) / scale,
    stretch: 200 * Math.log2(wider),
    horizontal: percentOf(last[0], photo),
    vertical: percentOf(last[1], photo),
  };
  const { angle, ...percents } = made;
  if (Math.abs(angle) > MOST_DEGREES || Object.values(percents).some((v) => !(Math.abs(v) <= 100))) return null;
  return { ...geometry, ...made, crop: null };
}
