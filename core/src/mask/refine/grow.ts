import { Type, type Static } from '@sinclair/typebox';
import { refineSchema, type RefineKind } from '../refine.ts';

const schema = refineSchema('grow', {
  /** How far the mask grows (+) or shrinks (-), in pixels of the full photograph. */
  by: Type.Number({ minimum: -100, maximum: 100 }),
});
export type Grow = Static<typeof schema>;

/** The greatest value within `half` pixels to either side, row by row: van Herk's and Gil & Werman's running maximum. */
function rowMaxima(plane: Uint16Array, width: number, height: number, half: number, out: Uint16Array): void {
  if (half === 0) return void out.set(plane);
  const size = 2 * half + 1;
  const length = Math.ceil((width + 2 * half) / size) * size;
  const line = new Uint16Array(length);
  const forward = new Uint16Array(length);
  const backward = new Uint16Array(length);
  for (let y = 0; y < height; y++) {
    line.set(plane.subarray(y * width, (y + 1) * width), half);
    for (let i = 0; i < length; i++) forward[i] = i % size === 0 || line[i]! > forward[i - 1]! ? line[i]! : forward[i - 1]!;
    for (let i = length - 1; i >= 0; i--) backward[i] = i % size === size - 1 || line[i]! > backward[i + 1]! ? line[i]! : backward[i + 1]!;
    for (let x = 0; x < width; x++) out[y * width + x] = Math.max(backward[x]!, forward[x + 2 * half]!);
  }
}

/** The greatest value within a disc of whole radius: grey-scale dilation, row by row. */
function discMaxima(plane: Uint16Array, width: number, height: number, radius: number): Uint16Array {
  const out = plane.slice();
  const rows = new Uint16Array(plane.length);
  for (let dy = 0; dy <= radius; dy++) {
    rowMaxima(plane, width, height, Math.floor(Math.sqrt(radius * radius - dy * dy)), rows);
    for (const step of dy === 0 ? [0] : [dy, -dy])
      for (let y = Math.max(0, -step); y < Math.min(height, height - step); y++) {
        const from = (y + step) * width;
        const to = y * width;
        for (let x = 0; x < width; x++) if (rows[from + x]! > out[to + x]!) out[to + x] = rows[from + x]!;
      }
  }
  return out;
}

const invert = (plane: Uint16Array): void => {
  for (let i = 0; i < plane.length; i++) plane[i] = 65535 - plane[i]!;
};

export const grow: RefineKind<Grow> = {
  kind: 'grow',
  name: 'Grow or shrink',
  schema,
  controls: [{ key: 'by', label: 'Grow', step: 1, unit: 'px', signed: true, usual: [-40, 40] }],
  create: () => ({ kind: 'grow', by: 3 }),
  reach: (step, scale) => Math.ceil(Math.abs(step.by) * scale),
  fit: (step, fit) => void (step.by = Math.sign(step.by) * Math.min(100, fit.size(Math.abs(step.by)))),
  /** A radius that is no whole number of pixels lies between the two whole ones. Shrinking the mask is growing what it leaves out. */
  apply({ by }, scale, plane, { region: { width, height } }) {
    const radius = Math.abs(by) * scale;
    const whole = Math.floor(radius);
    const between = radius - whole;
    if (by < 0) invert(plane);
    const low = whole > 0 ? discMaxima(plane, width, height, whole) : plane.slice();
    const high = between > 0 ? discMaxima(plane, width, height, whole + 1) : low;
    for (let i = 0; i < plane.length; i++) plane[i] = (low[i]! + (high[i]! - low[i]!) * between + 0.5) | 0;
    if (by < 0) invert(plane);
  },
};
