// Four pixels at a time. No relaxed SIMD: the same bytes on every engine.

// @ts-ignore: decorator
@inline export function splat(x: f32): v128 { return f32x4.splat(x); }
// @ts-ignore: decorator
@inline export function add(a: v128, b: v128): v128 { return f32x4.add(a, b); }
// @ts-ignore: decorator
@inline export function sub(a: v128, b: v128): v128 { return f32x4.sub(a, b); }
// @ts-ignore: decorator
@inline export function mul(a: v128, b: v128): v128 { return f32x4.mul(a, b); }
// @ts-ignore: decorator
@inline export function div(a: v128, b: v128): v128 { return f32x4.div(a, b); }
// @ts-ignore: decorator
@inline export function abs(a: v128): v128 { return f32x4.abs(a); }
// @ts-ignore: decorator
@inline export function least(a: v128, b: v128): v128 { return f32x4.pmin(a, b); }
// @ts-ignore: decorator
@inline export function most(a: v128, b: v128): v128 { return f32x4.pmax(a, b); }
// @ts-ignore: decorator
@inline export function dot3(a: f32, x: v128, b: f32, y: v128, c: f32, z: v128): v128 {
  return add(add(mul(x, splat(a)), mul(y, splat(b))), mul(z, splat(c)));
}
/** NaN becomes 0. */
// @ts-ignore: decorator
@inline export function number(x: v128): v128 { return v128.and(x, f32x4.eq(x, x)); }
/** The magnitude of `a` with the sign of `from`. */
// @ts-ignore: decorator
@inline export function withSign(a: v128, from: v128): v128 { return v128.or(a, v128.and(from, i32x4.splat(0x80000000))); }

/** Table look-up with linear interpolation; `x` is an index, 0 to the last interval's end. WebAssembly has no gather: 4 loads of 64 bits bring an entry and its successor. */
// @ts-ignore: decorator
@inline export function look(table: usize, x: v128): v128 {
  const k = i32x4.trunc_sat_f32x4_s(x);
  const share = sub(x, f32x4.convert_i32x4_s(k));
  const at = i32x4.shl(k, 2);
  let p = v128.load64_zero(table + i32x4.extract_lane(at, 0));
  p = v128.load64_lane(table + i32x4.extract_lane(at, 1), p, 1);
  let q = v128.load64_zero(table + i32x4.extract_lane(at, 2));
  q = v128.load64_lane(table + i32x4.extract_lane(at, 3), q, 1);
  const low = v128.shuffle<f32>(p, q, 0, 2, 4, 6);
  const high = v128.shuffle<f32>(p, q, 1, 3, 5, 7);
  return add(low, mul(sub(high, low), share));
}

/** A table's entry at each index. */
// @ts-ignore: decorator
@inline export function pick(table: usize, k: v128): v128 {
  const at = i32x4.shl(k, 2);
  let p = v128.load32_zero(table + i32x4.extract_lane(at, 0));
  p = v128.load32_lane(table + i32x4.extract_lane(at, 1), p, 1);
  p = v128.load32_lane(table + i32x4.extract_lane(at, 2), p, 2);
  return v128.load32_lane(table + i32x4.extract_lane(at, 3), p, 3);
}

/** From 0 to 1 without corners while `t` goes from 0 to 1. */
// @ts-ignore: decorator
@inline export function smoothStep(t: v128): v128 {
  const x = least(most(t, splat(0)), splat(1));
  return mul(mul(x, x), sub(splat(3), add(x, x)));
}

/** Cube root: a guess from the exponent, then two Halley steps; odd, and about 0 at 0. */
// @ts-ignore: decorator
@inline export function cubeRoot(x: v128): v128 {
  const m = most(abs(x), splat(1e-20)); // at 0 both Halley terms would vanish to 0/0
  let y = i32x4.add(i32x4.trunc_sat_f32x4_s(mul(f32x4.convert_i32x4_s(m), splat(0.33333334))), i32x4.splat(709958130));
  const twice = add(m, m);
  let cube = mul(mul(y, y), y);
  y = div(mul(y, add(cube, twice)), add(add(cube, cube), m));
  cube = mul(mul(y, y), y);
  y = div(mul(y, add(cube, twice)), add(add(cube, cube), m));
  return withSign(y, x);
}
