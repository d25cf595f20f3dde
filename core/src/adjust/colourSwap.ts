import type { ColourSpace } from '../base/space.ts';
import { Type, type Static } from '@sinclair/typebox';
import { colourSchema } from '../colour/colour.ts';
import { rgbToOklab } from '../colour/oklab.ts';
import { fromOklab, toOklab } from '../colour/oklabPlanes.ts';
import { smoothStep } from '../base/number.ts';
import { acceleration } from '../base/acceleration.ts';
import type { Planes } from '../base/planes.ts';
import type { Adjustment } from './adjustment.ts';
import { percent, strict } from './range.ts';

const schema = Type.Object(
  {
    from: colourSchema,
    to: colourSchema,
    /** How unlike the first colour may be and still change fully, and over what further distance it fades: OKLab, times 100. */
    tolerance: percent,
    softness: percent,
    /** Whether only hue and chroma change. */
    keepLightness: Type.Boolean(),
  },
  strict,
);
export type ColourSwapSettings = Static<typeof schema>;

const labOf = (space: ColourSpace, colour: readonly [number, number, number]): Float64Array => {
  const lab = new Float64Array(3);
  rgbToOklab(space, ...colour, lab);
  return lab;
};

/** The definition of {@link Acceleration.moveNear}: OKLab nearer than `outer` to `from` moves `by` a vector, over a distance of `fade` not fully. */
export function moveNear(
  space: ColourSpace,
  pixels: Planes,
  n: number,
  from: ArrayLike<number>,
  by: readonly number[],
  outer: number,
  fade: number,
): void {
  toOklab(space, pixels, n);
  const { r, g, b } = pixels;
  for (let i = 0; i < n; i++) {
    const [x, y, z] = [r[i]! - from[0]!, g[i]! - from[1]!, b[i]! - from[2]!];
    const share = smoothStep((outer - Math.sqrt(x * x + y * y + z * z)) / fade);
    if (share === 0) continue;
    r[i] = r[i]! + by[0]! * share;
    g[i] = g[i]! + by[1]! * share;
    b[i] = b[i]! + by[2]! * share;
  }
  fromOklab(space, pixels, n);
}

/** What is like one colour moves by the difference to another, so that its own shading stays. */
export const colourSwap: Adjustment<'colourSwap', ColourSwapSettings> = {
  kind: 'colourSwap',
  name: 'Colour swap',
  explains: 'One colour becomes another',
  group: 'A hue',
  schema,
  defaults: { from: [0.5, 0.5, 0.5], to: [0.5, 0.5, 0.5], tolerance: 8, softness: 12, keepLightness: false },
  controls: [
    { key: 'from', label: 'From', sampled: true },
    { key: 'to', label: 'To' },
    { key: 'tolerance', label: 'Tolerance', step: 0.5, usual: [0, 50] },
    { key: 'softness', label: 'Softness', step: 0.5, usual: [0, 50] },
    { key: 'keepLightness', label: 'Keep lightness' },
  ],
  isNeutral: ({ from, to }) => from.every((v, i) => v === to[i]),
  apply(s, pixels, n, { space }) {
    const [from, to] = [labOf(space, s.from), labOf(space, s.to)];
    const by = [s.keepLightness ? 0 : to[0]! - from[0]!, to[1]! - from[1]!, to[2]! - from[2]!];
    const fade = Math.max(1e-4, s.softness / 100);
    (acceleration?.moveNear ?? moveNear)(space, pixels, n, from, by, (s.tolerance + s.softness) / 100, fade);
  },
  takeColour: (settings, colour) => void (settings.from = [...colour]),
};
