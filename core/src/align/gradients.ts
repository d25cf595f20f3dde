/** Where edges lie and which way they run, whatever the exposure: as complex pictures. */
import type { Complex } from './fft2.ts';
import type { Motion } from './motion.ts';

/** Brightness, encoded 0..1, rows one after another. */
export interface Grey {
  readonly width: number;
  readonly height: number;
  readonly values: Float32Array;
}

export interface Gradients {
  readonly width: number;
  readonly height: number;
  readonly re: Float32Array;
  readonly im: Float32Array;
}

/** Gradients this small are noise; and where brightness has come to an end there are none: both in 255ths. */
const NOISE = 8;
const [DARKEST, LIGHTEST] = [1 / 255, 252 / 255];

/** Unit vectors along the gradient, shorter where it is hardly one. */
export function gradientsOf({ width, height, values: v }: Grey): Gradients {
  const [re, im] = [new Float32Array(width * height), new Float32Array(width * height)];
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      if (v[i]! < DARKEST || v[i]! > LIGHTEST) continue;
      const [up, down] = [i - width, i + width];
      const dx = 255 * (v[i + 1]! - v[i - 1]! + 0.5 * (v[up + 1]! - v[up - 1]! + v[down + 1]! - v[down - 1]!));
      const dy = 255 * (v[down]! - v[up]! + 0.5 * (v[down - 1]! - v[up - 1]! + v[down + 1]! - v[up + 1]!));
      const size = Math.hypot(dx, dy) + NOISE;
      re[i] = dx / size;
      im[i] = dy / size;
    }
  return { width, height, re, im };
}

/** Half as large, by means. */
export function halved({ width, height, values }: Grey): Grey {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x;
      out[y * w + x] = (values[i]! + values[i + 1]! + values[i + width]! + values[i + width + 1]!) / 4;
    }
  return { width: w, height: h, values: out };
}

/**
 * A square of gradients about a place, faded towards its rim (Hann window), as another picture has it.
 * @param x from the middle of the first picture
 * @param motion to the second one, from which it is read; the turn of its vectors is undone
 */
export function squareOf({ width, height, re, im }: Gradients, x: number, y: number, side: number, motion: Motion): Complex {
  const out = new Float64Array(2 * side * side);
  const [cos, sin] = [Math.cos(motion.turn), Math.sin(motion.turn)];
  const [leanX, leanY] = motion.lean ?? [0, 0];
  const [mx, my] = [width / 2 - 0.5, height / 2 - 0.5];
  const hann = Float64Array.from({ length: side }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / side));
  for (let j = 0; j < side; j++) {
    const qy = y - side / 2 + j + 0.5;
    for (let i = 0; i < side; i++) {
      const qx = x - side / 2 + i + 0.5;
      const nearer = 1 + leanX * qx + leanY * qy;
      const [px, py] = [qx / nearer, qy / nearer];
      const u = motion.scale * (cos * px - sin * py) + motion.dx + mx;
      const v = motion.scale * (sin * px + cos * py) + motion.dy + my;
      const [x0, y0] = [Math.floor(u), Math.floor(v)];
      if (x0 < 0 || y0 < 0 || x0 >= width - 1 || y0 >= height - 1) continue;
      const [fx, fy] = [u - x0, v - y0];
      const at = y0 * width + x0;
      const a = mixed(re, at, width, fx, fy);
      const b = mixed(im, at, width, fx, fy);
      const weight = hann[j]! * hann[i]!;
      const o = (j * side + i) * 2;
      out[o] = weight * (cos * a + sin * b);
      out[o + 1] = weight * (cos * b - sin * a);
    }
  }
  return out;
}

/** Between four samples. */
function mixed(plane: Float32Array, at: number, width: number, fx: number, fy: number): number {
  const above = plane[at]! * (1 - fx) + plane[at + 1]! * fx;
  return above * (1 - fy) + (plane[at + width]! * (1 - fx) + plane[at + width + 1]! * fx) * fy;
}
