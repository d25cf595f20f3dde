// Changes of channels: in linear light, by a table for each, by a table of colours.
import { PLANE_B, PLANE_G, PLANE_R, TABLE_1 } from './layout';
import { add, dot3, least, look, most, mul, number, splat, sub } from './simd';
import { decode, encode } from './transfer';

/** A matrix and an offset on `n` pixels in linear light. */
export function inLight(
  n: i32, m00: f32, m01: f32, m02: f32, m10: f32, m11: f32, m12: f32, m20: f32, m21: f32, m22: f32, offset: f32, decodeScale: f32, encodeScale: f32,
): void {
  const more = splat(offset);
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    const r = decode(v128.load(PLANE_R + i), decodeScale);
    const g = decode(v128.load(PLANE_G + i), decodeScale);
    const b = decode(v128.load(PLANE_B + i), decodeScale);
    v128.store(PLANE_R + i, encode(add(dot3(m00, r, m01, g, m02, b), more), encodeScale));
    v128.store(PLANE_G + i, encode(add(dot3(m10, r, m11, g, m12, b), more), encodeScale));
    v128.store(PLANE_B + i, encode(add(dot3(m20, r, m21, g, m22, b), more), encodeScale));
  }
}

/** Sends the `n` values of the first plane through a table over their square root, `steps` intervals; held within 0..1. */
export function through(n: i32, steps: f32): void {
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    const x = least(most(number(v128.load(PLANE_R + i)), splat(0)), splat(1));
    v128.store(PLANE_R + i, look(TABLE_1, mul(f32x4.sqrt(x), splat(steps))));
  }
}

// @ts-ignore: decorator
@inline function hold(v: v128, last: v128): v128 {
  return least(most(number(v), splat(0)), last);
}
/** The colour of one lane's corner times its weight. */
// @ts-ignore: decorator
@inline function corner(at: usize, weight: f32): v128 {
  return mul(v128.load(at), splat(weight));
}
// @ts-ignore: decorator
@inline function mixture(at: usize, one: i32, two: i32, three: i32, w0: f32, w1: f32, w2: f32, w3: f32): v128 {
  return add(add(corner(at, w0), corner(at + one, w1)), add(corner(at + two, w2), corner(at + three, w3)));
}

/** `n` colours by a table of `size`^3 colours of four floats each, interpolated in tetrahedra; see core's adjust/lut3d.ts. */
export function throughLut(n: i32, table: usize, size: i32, x0: f32, y0: f32, z0: f32, sx: f32, sy: f32, sz: f32): void {
  const stepX = 16;
  const stepY = size * 16;
  const stepZ = size * size * 16;
  const all = stepX + stepY + stepZ;
  const last = splat(<f32>(size - 1));
  const cell = splat(<f32>(size - 2));
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    const x = hold(mul(sub(v128.load(PLANE_R + i), splat(x0)), splat(sx)), last);
    const y = hold(mul(sub(v128.load(PLANE_G + i), splat(y0)), splat(sy)), last);
    const z = hold(mul(sub(v128.load(PLANE_B + i), splat(z0)), splat(sz)), last);
    const kx = f32x4.floor(least(x, cell));
    const ky = f32x4.floor(least(y, cell));
    const kz = f32x4.floor(least(z, cell));
    const fx = sub(x, kx);
    const fy = sub(y, ky);
    const fz = sub(z, kz);
    const at = i32x4.add(
      i32x4.mul(i32x4.trunc_sat_f32x4_s(kx), i32x4.splat(stepX)),
      i32x4.add(i32x4.mul(i32x4.trunc_sat_f32x4_s(ky), i32x4.splat(stepY)), i32x4.mul(i32x4.trunc_sat_f32x4_s(kz), i32x4.splat(stepZ))),
    );
    // From black's corner to white's, along the edges in the order of the fractions: the largest first, the least last.
    const f1 = most(fx, most(fy, fz));
    const f3 = least(fx, least(fy, fz));
    const f2 = sub(sub(add(add(fx, fy), fz), f1), f3);
    const one = v128.bitselect(
      i32x4.splat(stepX),
      v128.bitselect(i32x4.splat(stepY), i32x4.splat(stepZ), f32x4.eq(fy, f1)),
      f32x4.eq(fx, f1),
    );
    const leastStep = v128.bitselect(
      i32x4.splat(stepZ),
      v128.bitselect(i32x4.splat(stepY), i32x4.splat(stepX), f32x4.eq(fy, f3)),
      f32x4.eq(fz, f3),
    );
    const two = i32x4.sub(i32x4.splat(all), leastStep);
    const w0 = sub(splat(1), f1);
    const w1 = sub(f1, f2);
    const w2 = sub(f2, f3);
    const p0 = mixture(table + i32x4.extract_lane(at, 0), i32x4.extract_lane(one, 0), i32x4.extract_lane(two, 0), all, f32x4.extract_lane(w0, 0), f32x4.extract_lane(w1, 0), f32x4.extract_lane(w2, 0), f32x4.extract_lane(f3, 0)); // prettier-ignore
    const p1 = mixture(table + i32x4.extract_lane(at, 1), i32x4.extract_lane(one, 1), i32x4.extract_lane(two, 1), all, f32x4.extract_lane(w0, 1), f32x4.extract_lane(w1, 1), f32x4.extract_lane(w2, 1), f32x4.extract_lane(f3, 1)); // prettier-ignore
    const p2 = mixture(table + i32x4.extract_lane(at, 2), i32x4.extract_lane(one, 2), i32x4.extract_lane(two, 2), all, f32x4.extract_lane(w0, 2), f32x4.extract_lane(w1, 2), f32x4.extract_lane(w2, 2), f32x4.extract_lane(f3, 2)); // prettier-ignore
    const p3 = mixture(table + i32x4.extract_lane(at, 3), i32x4.extract_lane(one, 3), i32x4.extract_lane(two, 3), all, f32x4.extract_lane(w0, 3), f32x4.extract_lane(w1, 3), f32x4.extract_lane(w2, 3), f32x4.extract_lane(f3, 3)); // prettier-ignore
    // Four colours of four lanes become planes.
    const rg01 = v128.shuffle<f32>(p0, p1, 0, 4, 1, 5);
    const rg23 = v128.shuffle<f32>(p2, p3, 0, 4, 1, 5);
    v128.store(PLANE_R + i, v128.shuffle<f32>(rg01, rg23, 0, 1, 4, 5));
    v128.store(PLANE_G + i, v128.shuffle<f32>(rg01, rg23, 2, 3, 6, 7));
    v128.store(PLANE_B + i, v128.shuffle<f32>(v128.shuffle<f32>(p0, p1, 2, 6, 2, 6), v128.shuffle<f32>(p2, p3, 2, 6, 2, 6), 0, 1, 4, 5));
  }
}
