/** Whole planes between encoded RGB and OKLab. */
import { acceleration } from '../base/acceleration.ts';
import type { Planes } from '../base/planes.ts';
import type { ColourSpace } from '../base/space.ts';
import { oklabToRgb, rgbToOklab } from './oklab.ts';

/** Turns the first `n` pixels in place from encoded RGB to OKLab: L into the red plane, a into the green, b into the blue one. */
export function planesToOklab(space: ColourSpace, pixels: Planes, n: number): void {
  (acceleration?.toOklab ?? toOklab)(space, pixels, n);
}

/** The way back from {@link planesToOklab}. */
export function planesFromOklab(space: ColourSpace, pixels: Planes, n: number): void {
  (acceleration?.fromOklab ?? fromOklab)(space, pixels, n);
}

/** The definition of {@link Acceleration.toOklab}. */
export function toOklab(space: ColourSpace, { r, g, b }: Planes, n: number): void {
  const px = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    rgbToOklab(space, r[i]!, g[i]!, b[i]!, px);
    r[i] = px[0]!;
    g[i] = px[1]!;
    b[i] = px[2]!;
  }
}

/** The definition of {@link Acceleration.fromOklab}. */
export function fromOklab(space: ColourSpace, { r, g, b }: Planes, n: number): void {
  const px = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    oklabToRgb(space, r[i]!, g[i]!, b[i]!, px);
    r[i] = px[0]!;
    g[i] = px[1]!;
    b[i] = px[2]!;
  }
}
