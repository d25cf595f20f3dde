/** Whole planes between encoded sRGB and OKLab. */
import { acceleration } from '../base/acceleration.ts';
import type { Planes } from '../base/planes.ts';
import { oklabToSrgb, srgbToOklab } from './oklab.ts';

/** Turns the first `n` pixels in place from encoded sRGB to OKLab: L into the red plane, a into the green, b into the blue one. */
export function planesToOklab(pixels: Planes, n: number): void {
  (acceleration?.toOklab ?? toOklab)(pixels, n);
}

/** The way back from {@link planesToOklab}. */
export function planesFromOklab(pixels: Planes, n: number): void {
  (acceleration?.fromOklab ?? fromOklab)(pixels, n);
}

/** The definition of {@link Acceleration.toOklab}. */
export function toOklab({ r, g, b }: Planes, n: number): void {
  const px = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    srgbToOklab(r[i]!, g[i]!, b[i]!, px);
    r[i] = px[0]!;
    g[i] = px[1]!;
    b[i] = px[2]!;
  }
}

/** The definition of {@link Acceleration.fromOklab}. */
export function fromOklab({ r, g, b }: Planes, n: number): void {
  const px = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    oklabToSrgb(r[i]!, g[i]!, b[i]!, px);
    r[i] = px[0]!;
    g[i] = px[1]!;
    b[i] = px[2]!;
  }
}
