// Resampling along a row, see core's geometry/warp.ts.
import { TABLE_DECODE } from './layout';

/** The first three rows of a projection, by rows; they stay where they are read from. */
const MATRIX: usize = TABLE_DECODE;

/** A pixel times its weight. */
// @ts-ignore: decorator
@inline function tap(at: usize, weight: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(v128.load_ext<u16>(at)), weight);
}

/**
 * `n` pixels of a row of the picture that begin at (px, py), into `out`: four samples of 16 bits each, `most` at most.
 * @param source pixels of four samples of 16 bits: `width` of them in a row, those at (left, top) to (right, bottom) of the photograph
 */
export function warpSpan(
  n: i32, px: f64, py: f64, source: usize, left: i32, top: i32, right: i32, bottom: i32, phases: i32,
  across: usize, acrossCount: i32, down: usize, downCount: i32, most: f32, out: usize,
): void {
  const a0 = load<f64>(MATRIX);
  const a1 = load<f64>(MATRIX + 8);
  const a2 = load<f64>(MATRIX + 16);
  const b0 = load<f64>(MATRIX + 24);
  const b1 = load<f64>(MATRIX + 32);
  const b2 = load<f64>(MATRIX + 40);
  const c0 = load<f64>(MATRIX + 48);
  const c1 = load<f64>(MATRIX + 56);
  const c2 = load<f64>(MATRIX + 64);
  const width = right - left + 1;
  const half = f32x4.splat(0.5);
  const limit = f32x4.splat(most);
  for (let i = 0; i < n; i++) {
    const x = px + <f64>i;
    const w = c0 * x + c1 * py + c2;
    const u = (a0 * x + a1 * py + a2) / w - 0.5;
    const v = (b0 * x + b1 * py + b2) / w - 0.5;
    const fu = Math.floor(u);
    const fv = Math.floor(v);
    const pu = across + (<usize>(<i32>Math.floor((u - fu) * <f64>phases + 0.5)) * acrossCount << 2);
    const pv = down + (<usize>(<i32>Math.floor((v - fv) * <f64>phases + 0.5)) * downCount << 2);
    const x0 = <i32>fu - (acrossCount >> 1) + 1;
    const y0 = <i32>fv - (downCount >> 1) + 1;
    const w0 = v128.load_splat<f32>(pu);
    const w1 = v128.load_splat<f32>(pu + 4);
    const w2 = v128.load_splat<f32>(pu + 8);
    const w3 = v128.load_splat<f32>(pu + 12);
    const w4 = v128.load_splat<f32>(pu + 16);
    const w5 = v128.load_splat<f32>(pu + 20);
    const plain = acrossCount === 6 && x0 >= left && x0 + acrossCount - 1 <= right;
    let sum = f32x4.splat(0);
    for (let k = 0; k < downCount; k++) {
      const sy = y0 + k;
      const row = source + (<usize>((sy < top ? top : sy > bottom ? bottom : sy) - top) * width << 3);
      let line: v128;
      if (plain) {
        const at = row + (<usize>(x0 - left) << 3);
        line = f32x4.add(
          f32x4.add(f32x4.add(tap(at, w0), tap(at + 8, w1)), f32x4.add(tap(at + 16, w2), tap(at + 24, w3))),
          f32x4.add(tap(at + 32, w4), tap(at + 40, w5)),
        );
      } else {
        line = f32x4.splat(0);
        for (let j = 0; j < acrossCount; j++) {
          const sx = x0 + j;
          const at = row + (<usize>((sx < left ? left : sx > right ? right : sx) - left) << 3);
          line = f32x4.add(line, tap(at, v128.load_splat<f32>(pu + (<usize>j << 2))));
        }
      }
      sum = f32x4.add(sum, f32x4.mul(line, v128.load_splat<f32>(pv + (<usize>k << 2))));
    }
    const whole = i32x4.trunc_sat_f32x4_s(f32x4.max(f32x4.min(f32x4.add(sum, half), limit), f32x4.splat(0)));
    v128.store64_lane(out + (<usize>i << 3), i16x8.narrow_i32x4_u(whole, whole), 0);
  }
}
