/** What pixels inside a mask are. */
import { deltaE2000, rgbToOklch, srgb, type Lab } from '@umbo/core/colour';
import { labAt } from './harness.ts';

/** Calls `each` for every third pixel inside a mask. */
function inside(mask: Uint8Array, each: (i: number) => void): void {
  for (let i = 0; i < mask.length; i += 3) if (mask[i]! >= 128) each(i);
}
export function meanDifference(a: Uint16Array, b: Uint16Array, mask: Uint8Array): number {
  let [sum, n] = [0, 0];
  inside(mask, (i) => [(sum += deltaE2000(labAt(a, i), labAt(b, i))), n++]);
  return sum / n;
}

export function meanLab(pixels: Uint16Array, mask: Uint8Array): Lab {
  const sum = { l: 0, a: 0, b: 0 };
  let n = 0;
  inside(mask, (i) => {
    const { l, a, b } = labAt(pixels, i);
    [sum.l, sum.a, sum.b, n] = [sum.l + l, sum.a + a, sum.b + b, n + 1];
  });
  return { l: sum.l / n, a: sum.a / n, b: sum.b / n };
}

/** Standard deviations of OKLCh hue (about its mean direction), chroma and lightness inside a mask. */
export function spread(pixels: Uint16Array, mask: Uint8Array): { l: number; c: number; h: number } {
  const colours: { l: number; c: number; h: number }[] = [];
  inside(mask, (i) => colours.push(rgbToOklch(srgb, pixels[i * 3]! / 65535, pixels[i * 3 + 1]! / 65535, pixels[i * 3 + 2]! / 65535)));
  const sum = (of: (colour: { l: number; c: number; h: number }) => number): number => colours.reduce((all, colour) => all + of(colour), 0);
  const direction = Math.atan2(
    sum(({ h }) => Math.sin((h * Math.PI) / 180)),
    sum(({ h }) => Math.cos((h * Math.PI) / 180)),
  );
  const deviation = (of: (colour: { l: number; c: number; h: number }) => number): number => {
    const mean = sum(of) / colours.length;
    return Math.sqrt(sum((colour) => (of(colour) - mean) ** 2) / colours.length);
  };
  const middle = (direction * 180) / Math.PI;
  return { l: deviation(({ l }) => l), c: deviation(({ c }) => c), h: deviation(({ h }) => ((h - middle + 540) % 360) - 180) };
}
