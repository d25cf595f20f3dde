/** Every channel of what a mask lets in, tried in turn: which of them tells most there, as a grey or blended over the picture. */
import { createPlanes, type Planes } from '../base/planes.ts';
import { blendMode } from '../blend/registry.ts';
import { heldIn } from '../colour/betweenSpaces.ts';
import { channelPlane, channels, type Channel } from '../colour/channels.ts';
import { lumOf } from '../colour/luminosity.ts';
import { spaceOf, srgb } from '../colour/spaces.ts';
import type { Measured, Measurement } from './measurement.ts';

/** Modes in which a grey raises contrast, weaker ones first, after the grey by itself. Common practice, no source. */
export const CHANNEL_MODES = ['normal', 'soft-light', 'overlay', 'hard-light', 'linear-light'] as const;

export interface TriedChannel {
  readonly channel: Channel;
  /**
   * Percent: the standard deviation of the luminosity within the mask. E. Peli, "Contrast in complex images" (Journal of the Optical Society of
   * America A 7, 1990): root mean square contrast.
   */
  readonly contrast: number;
  /** The part of the picture with the mask, small, in sRGB. */
  readonly picture: { readonly width: number; readonly height: number; readonly rgba: Uint8ClampedArray<ArrayBuffer> };
}

/** The longer side of the small pictures; contrast is measured on as many pixels. */
const SIDE = 160;
/** The cover from which a pixel counts as within the mask's bounds. */
const WITHIN = 6554;

interface Small {
  readonly width: number;
  readonly height: number;
  readonly pixels: Planes;
  readonly weight: Float32Array;
}

/** What a mask lets in, cut to its bounds: of every so many pixels one. */
function small({ picture, weight }: Measured): Small {
  const { width, height } = picture.area;
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      if (!weight || weight[i]! >= WITHIN) {
        [left, right] = [Math.min(left, x), Math.max(right, x + 1)];
        [top, bottom] = [Math.min(top, y), Math.max(bottom, y + 1)];
      }
  if (right <= left) [left, top, right, bottom] = [0, 0, width, height];
  const every = Math.max(1, Math.max(right - left, bottom - top) / SIDE);
  const [w, h] = [Math.max(1, Math.floor((right - left) / every)), Math.max(1, Math.floor((bottom - top) / every))];
  const pixels = createPlanes(w * h);
  const weights = new Float32Array(w * h);
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      const at = (top + Math.floor((y + 0.5) * every)) * width + left + Math.floor((x + 0.5) * every);
      for (const plane of ['r', 'g', 'b'] as const) pixels[plane][i] = picture[plane][at]! / 65535;
      weights[i] = weight ? weight[at]! / 65535 : 1;
    }
  return { width: w, height: h, pixels, weight: weights };
}

/** Root mean square contrast of the luminosity, in percent. */
function contrastOf({ r, g, b }: Planes, weight: Float32Array): number {
  let [sum, squares, count] = [0, 0, 0];
  for (let i = 0; i < weight.length; i++) {
    const [w, l] = [weight[i]!, lumOf(r[i]!, g[i]!, b[i]!)];
    sum += w * l;
    squares += w * l * l;
    count += w;
  }
  return count === 0 ? 0 : 100 * Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));
}

/** All channels in a mode, those with most contrast first. */
export const triedChannels: Measurement<'triedChannels', { readonly mode: string }, TriedChannel[]> = {
  kind: 'triedChannels',
  needs: 'picture',
  measure({ mode }, of) {
    const space = spaceOf(of.scale);
    const { width, height, pixels, weight } = small(of);
    const n = width * height;
    const tried = channels.map((channel): TriedChannel => {
      const grey = new Float32Array(n);
      channelPlane(space, channel, pixels, n, grey);
      const own = { r: grey, g: grey.slice(), b: grey.slice() };
      blendMode(mode).apply(pixels, own, n);
      const shown = heldIn(srgb, space, own, n);
      const rgba = new Uint8ClampedArray(n * 4);
      for (let i = 0; i < n; i++) rgba.set([shown.r[i]! * 255, shown.g[i]! * 255, shown.b[i]! * 255, 255], i * 4);
      return { channel, contrast: contrastOf(own, weight), picture: { width, height, rgba } };
    });
    return tried.sort((a, b) => b.contrast - a.contrast);
  },
};
