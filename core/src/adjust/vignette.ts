import { lumOf } from '../colour/luminosity.ts';
import { Type, type Static } from '@sinclair/typebox';
import { smoothStep, clamp } from '../base/number.ts';
import type { Adjustment } from './adjustment.ts';
import { project } from '../base/framing.ts';
import { placesInPicture } from '../geometry/framing.ts';
import type { Size } from '../base/geometry.ts';
import { percent, signedPercent, strict } from './range.ts';

const schema = Type.Object(
  {
    /** Below 0 the corners become darker, above 0 lighter. */
    amount: signedPercent,
    /** How far from the centre it begins, in percent of the way to the corners. */
    size: percent,
    /** Over how much of the rest it grows. */
    softness: percent,
    /** From the frame's own shape (0) to a circle (100). */
    shape: percent,
    /** How far the shadows are left as they are. */
    spareShadows: percent,
    /** The centre, in percent of width and height. */
    x: percent,
    y: percent,
  },
  strict,
);
export type VignetteSettings = Static<typeof schema>;

const CENTRE = 'Vignette’s centre';
const BEGINS = 'Vignette begins';

/** Half-axes of the line on which corners would lie, in pixels of a picture. */
function cornerAxes(shape: number, { width, height }: Size): [number, number] {
  const long = Math.max(width, height);
  const axis = (side: number): number => ((side + (long - side) * (shape / 100)) / 2) * Math.SQRT2;
  return [axis(width), axis(height)];
}

/** Corners darker or lighter. */
export const vignette: Adjustment<'vignette', VignetteSettings> = {
  kind: 'vignette',
  name: 'Vignette',
  explains: 'Darker or lighter corners',
  group: 'Light',
  schema,
  defaults: { amount: -30, size: 45, softness: 80, shape: 0, spareShadows: 0, x: 50, y: 50 },
  controls: [
    { key: 'amount', label: 'Amount', step: 1, signed: true },
    { key: 'size', label: 'Size', step: 1, unit: '%' },
    { key: 'softness', label: 'Softness', step: 1, unit: '%' },
    { key: 'shape', label: 'Roundness', step: 1, unit: '%' },
    { key: 'spareShadows', label: 'Spare darks', step: 1, unit: '%' },
    { key: 'x', label: 'Across', step: 1, unit: '%' },
    { key: 'y', label: 'Down', step: 1, unit: '%' },
  ],
  isNeutral: ({ amount }) => amount === 0,
  placed: true,
  framed: true,
  apply({ amount, size, softness, shape, spareShadows, x, y }, { r, g, b }, _n, { scale, tile }) {
    const { size: picture, toPicture } = placesInPicture(scale);
    const [cx, cy] = [(x / 100) * picture.width, (y / 100) * picture.height];
    const [axisX, axisY] = cornerAxes(shape, picture);
    const begin = size / 100;
    const width = Math.max(0.01, (softness / 100) * (1.05 - begin));
    const strength = amount / 100;
    const spare = spareShadows / 100;
    for (let row = 0, i = 0; row < tile.height; row++) {
      for (let column = 0; column < tile.width; column++, i++) {
        const [px, py] = project(toPicture, tile.x + column + 0.5, tile.y + row + 0.5);
        const [dx, dy] = [(px - cx) / axisX, (py - cy) / axisY];
        let share = strength * smoothStep((Math.sqrt(dx * dx + dy * dy) - begin) / width);
        if (share === 0) continue;
        if (spare > 0) {
          const l = lumOf(r[i]!, g[i]!, b[i]!);
          share *= 1 - spare * smoothStep(1 - l * 2);
        }
        if (share < 0) {
          r[i] = r[i]! * (1 + share);
          g[i] = g[i]! * (1 + share);
          b[i] = b[i]! * (1 + share);
        } else {
          r[i] = r[i]! + (1 - r[i]!) * share;
          g[i] = g[i]! + (1 - g[i]!) * share;
          b[i] = b[i]! + (1 - b[i]!) * share;
        }
      }
    }
  },
  handles({ size, shape, x, y }, full) {
    const [cx, cy] = [(x / 100) * full.width, (y / 100) * full.height];
    return [
      { name: CENTRE, x: cx, y: cy },
      { name: BEGINS, x: cx + (size / 100) * cornerAxes(shape, full)[0], y: cy },
    ];
  },
  moveHandle(settings, name, x, y, full) {
    const share = (v: number): number => clamp(Math.round(v * 1000) / 10, 0, 100);
    if (name === CENTRE) Object.assign(settings, { x: share(x / full.width), y: share(y / full.height) });
    else settings.size = share(Math.abs(x - (settings.x / 100) * full.width) / cornerAxes(settings.shape, full)[0]);
  },
};
