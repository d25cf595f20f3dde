import type { ColourSpace } from '../base/space.ts';
import { Type, type Static } from '@sinclair/typebox';
import { fromOklab, toOklab } from '../colour/oklabPlanes.ts';
import { acceleration } from '../base/acceleration.ts';
import type { Planes } from '../base/planes.ts';
import type { Adjustment } from './adjustment.ts';
import { signedPercent, strict } from './range.ts';

const schema = Type.Object(
  {
    /** Percent: how much weak colours gain, or lose before strong ones do. */
    vibrance: signedPercent,
    /** Percent: how much all colours gain or lose. */
    saturation: signedPercent,
  },
  strict,
);
export type VibranceSettings = Static<typeof schema>;

/** OKLCh chroma at which a colour counts as strong. */
const STRONG = 0.25;

/** The definition of {@link Acceleration.gainChroma}: chroma times `all`, and the farther it is from `strong` the more by `weak`. */
export function gainChroma(space: ColourSpace, pixels: Planes, n: number, all: number, weak: number, strong: number): void {
  toOklab(space, pixels, n);
  const { g, b } = pixels;
  for (let i = 0; i < n; i++) {
    const [x, y] = [g[i]!, b[i]!];
    const missing = Math.max(0, 1 - Math.sqrt(x * x + y * y) / strong);
    const gain = all * (1 + weak * missing * missing);
    g[i] = x * gain;
    b[i] = y * gain;
  }
  fromOklab(space, pixels, n);
}

/**
 * Chroma in OKLCh times (1 + saturation) and, the weaker a colour is, times (1 + vibrance): the latter falls off with the square of what is
 * missing to {@link STRONG}. Common practice, no source.
 */
export const vibrance: Adjustment<'vibrance', VibranceSettings> = {
  kind: 'vibrance',
  name: 'Chroma',
  explains: 'More or less colour: all alike, or the weak first (vibrance, saturation)',
  group: 'A hue',
  schema,
  defaults: { vibrance: 0, saturation: 0 },
  controls: [
    { key: 'vibrance', label: 'Sparing the strong', step: 1, signed: true },
    { key: 'saturation', label: 'All alike', step: 1, signed: true },
  ],
  isNeutral: (s) => s.vibrance === 0 && s.saturation === 0,
  apply(s, pixels, n, { space }) {
    (acceleration?.gainChroma ?? gainChroma)(space, pixels, n, 1 + s.saturation / 100, s.vibrance / 100, STRONG);
  },
};
