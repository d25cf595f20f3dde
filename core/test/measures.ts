/** The demo's pictures, and how near results come to their references and truth masks. Pixels are interleaved RGB, 0..65535. */
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import type { Size } from '@umbo/core/base';
import { deltaE2000, rgbToLab, rgbToOklch, srgb, type Lab } from '@umbo/core/colour';

export const demo = (path: string): string => fileURLToPath(new URL(`../../demo/${path}`, import.meta.url));

/** A picture without any conversion. */
export async function pixels16(input: string | Buffer): Promise<Uint16Array> {
  const { depth } = await sharp(input).metadata();
  const image = sharp(input, { ignoreIcc: true }).removeAlpha();
  if (depth !== 'ushort') return new Uint16Array(await image.toColourspace('srgb').raw().toBuffer()).map((v) => v * 257);
  const raw = await image.toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer();
  return new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2);
}

/** A truth mask, 0..255; in its own size, or resampled. */
export async function truth(name: string, size?: Size): Promise<Uint8Array> {
  const image = sharp(demo(`truth/${name}.png`)).toColourspace('b-w');
  return new Uint8Array(await (size ? image.resize(size.width, size.height, { fit: 'fill' }) : image).raw().toBuffer());
}

/**
 * Intersection over union of what is more than half covered.
 * @param most what a full cover is in `mask`
 */
export function iou(mask: ArrayLike<number>, most: number, wanted: Uint8Array, inverted = false): number {
  let [both, either] = [0, 0];
  for (let i = 0; i < wanted.length; i++) {
    const [a, b] = [mask[i]! > most / 2, wanted[i]! > 127 !== inverted];
    if (a && b) both++;
    if (a || b) either++;
  }
  return both / either;
}

/** CIELAB (D50) of a pixel. */
export const labAt = (pixels: Uint16Array, i: number): Lab =>
  rgbToLab(srgb, pixels[i * 3]! / 65535, pixels[i * 3 + 1]! / 65535, pixels[i * 3 + 2]! / 65535);

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
