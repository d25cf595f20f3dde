// The acceleration of core's OKLab work: same tables, same matrices, four pixels at a time.
import { PLANE_B, PLANE_G, PLANE_OUT, PLANE_R, TABLE_1, TABLE_2, TABLE_3, TABLE_DECODE, TABLE_ENCODE, TABLE_HUE } from './layout';
import { abs, add, cubeRoot, div, dot3, least, look, most, mul, number, splat, sub, withSign } from './simd';

const INTERVALS: f32 = 4096;

// @ts-ignore: decorator
@inline function decode(v: v128, scale: f32): v128 {
  const x = number(v);
  return withSign(look(TABLE_DECODE, least(mul(abs(x), splat(scale)), splat(INTERVALS))), x);
}
// @ts-ignore: decorator
@inline function encode(v: v128, scale: f32): v128 {
  const x = number(v);
  return withSign(look(TABLE_ENCODE, least(mul(f32x4.sqrt(abs(x)), splat(scale)), splat(INTERVALS))), x);
}

/** Turns, stretches and lightens `n` pixels in OKLab: (a, b) by the matrix (ca -cb, cb ca), L to L * keep + lift. */
export function turn(n: i32, ca: f32, cb: f32, keep: f32, lift: f32, decodeScale: f32, encodeScale: f32): void {
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    const r = decode(v128.load(PLANE_R + i), decodeScale);
    const g = decode(v128.load(PLANE_G + i), decodeScale);
    const b = decode(v128.load(PLANE_B + i), decodeScale);
    const l = cubeRoot(dot3(0.4122214708, r, 0.5363325363, g, 0.0514459929, b));
    const m = cubeRoot(dot3(0.2119034982, r, 0.6806995451, g, 0.1073969566, b));
    const s = cubeRoot(dot3(0.0883024619, r, 0.2817188376, g, 0.6299787005, b));
    const L = add(mul(dot3(0.2104542553, l, 0.793617785, m, -0.0040720468, s), splat(keep)), splat(lift));
    const a0 = dot3(1.9779984951, l, -2.428592205, m, 0.4505937099, s);
    const b0 = dot3(0.0259040371, l, 0.7827717662, m, -0.808675766, s);
    const a1 = sub(mul(a0, splat(ca)), mul(b0, splat(cb)));
    const b1 = add(mul(a0, splat(cb)), mul(b0, splat(ca)));
    let l1 = add(L, add(mul(a1, splat(0.3963377774)), mul(b1, splat(0.2158037573))));
    let m1 = sub(L, add(mul(a1, splat(0.1055613458)), mul(b1, splat(0.0638541728))));
    let s1 = sub(L, add(mul(a1, splat(0.0894841775)), mul(b1, splat(1.291485548))));
    l1 = mul(mul(l1, l1), l1);
    m1 = mul(mul(m1, m1), m1);
    s1 = mul(mul(s1, s1), s1);
    v128.store(PLANE_R + i, encode(dot3(4.0767416621, l1, -3.3077115913, m1, 0.2309699292, s1), encodeScale));
    v128.store(PLANE_G + i, encode(dot3(-1.2684380046, l1, 2.6097574011, m1, -0.3413193965, s1), encodeScale));
    v128.store(PLANE_B + i, encode(dot3(-0.0041960863, l1, -0.7034186147, m1, 1.707614701, s1), encodeScale));
  }
}

/** How far the hues of `n` pixels are in the range of the hue table, 0..1, faded out below a chroma; `rise` 0: not faded. */
export function hueRange(n: i32, low: f32, rise: f32, decodeScale: f32): void {
  const quarter = splat(INTERVALS / 4);
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    const r = decode(v128.load(PLANE_R + i), decodeScale);
    const g = decode(v128.load(PLANE_G + i), decodeScale);
    const b = decode(v128.load(PLANE_B + i), decodeScale);
    const l = cubeRoot(dot3(0.4122214708, r, 0.5363325363, g, 0.0514459929, b));
    const m = cubeRoot(dot3(0.2119034982, r, 0.6806995451, g, 0.1073969566, b));
    const s = cubeRoot(dot3(0.0883024619, r, 0.2817188376, g, 0.6299787005, b));
    const a0 = dot3(1.9779984951, l, -2.428592205, m, 0.4505937099, s);
    const b0 = dot3(0.0259040371, l, 0.7827717662, m, -0.808675766, s);
    const p = div(a0, most(add(abs(a0), abs(b0)), splat(1e-20)));
    const index = mul(v128.bitselect(sub(splat(1), p), add(splat(3), p), f32x4.ge(b0, splat(0))), quarter);
    let cover = look(TABLE_HUE, least(index, splat(INTERVALS)));
    if (rise > 0) {
      let t = mul(sub(f32x4.sqrt(add(mul(a0, a0), mul(b0, b0))), splat(low)), splat(rise));
      t = least(most(t, splat(0)), splat(1));
      cover = mul(cover, mul(mul(t, t), sub(splat(3), add(t, t))));
    }
    v128.store(PLANE_OUT + i, cover);
  }
}

/** `n` pixels from encoded sRGB to OKLab, in place. */
export function toLab(n: i32, decodeScale: f32): void {
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    const r = decode(v128.load(PLANE_R + i), decodeScale);
    const g = decode(v128.load(PLANE_G + i), decodeScale);
    const b = decode(v128.load(PLANE_B + i), decodeScale);
    const l = cubeRoot(dot3(0.4122214708, r, 0.5363325363, g, 0.0514459929, b));
    const m = cubeRoot(dot3(0.2119034982, r, 0.6806995451, g, 0.1073969566, b));
    const s = cubeRoot(dot3(0.0883024619, r, 0.2817188376, g, 0.6299787005, b));
    v128.store(PLANE_R + i, dot3(0.2104542553, l, 0.793617785, m, -0.0040720468, s));
    v128.store(PLANE_G + i, dot3(1.9779984951, l, -2.428592205, m, 0.4505937099, s));
    v128.store(PLANE_B + i, dot3(0.0259040371, l, 0.7827717662, m, -0.808675766, s));
  }
}

/** `n` pixels from OKLab to encoded sRGB, in place. */
export function fromLab(n: i32, encodeScale: f32): void {
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    const L = v128.load(PLANE_R + i);
    const a = v128.load(PLANE_G + i);
    const b = v128.load(PLANE_B + i);
    let l = add(L, add(mul(a, splat(0.3963377774)), mul(b, splat(0.2158037573))));
    let m = sub(L, add(mul(a, splat(0.1055613458)), mul(b, splat(0.0638541728))));
    let s = sub(L, add(mul(a, splat(0.0894841775)), mul(b, splat(1.291485548))));
    l = mul(mul(l, l), l);
    m = mul(mul(m, m), m);
    s = mul(mul(s, s), s);
    v128.store(PLANE_R + i, encode(dot3(4.0767416621, l, -3.3077115913, m, 0.2309699292, s), encodeScale));
    v128.store(PLANE_G + i, encode(dot3(-1.2684380046, l, 2.6097574011, m, -0.3413193965, s), encodeScale));
    v128.store(PLANE_B + i, encode(dot3(-0.0041960863, l, -0.7034186147, m, 1.707614701, s), encodeScale));
  }
}

/** A table's entry at each index, without interpolation. */
// @ts-ignore: decorator
@inline function pick(table: usize, k: v128): v128 {
  const at = i32x4.shl(k, 2);
  let p = v128.load32_zero(table + i32x4.extract_lane(at, 0));
  p = v128.load32_lane(table + i32x4.extract_lane(at, 1), p, 1);
  p = v128.load32_lane(table + i32x4.extract_lane(at, 2), p, 2);
  return v128.load32_lane(table + i32x4.extract_lane(at, 3), p, 3);
}

/** Turns, stretches and lightens `n` pixels in OKLab by their own hue: tables of ca, cb and lift over the hue index. */
export function turnHues(n: i32, certain: f32, decodeScale: f32, encodeScale: f32): void {
  const quarter = splat(INTERVALS / 4);
  const one = splat(1);
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    const r = decode(v128.load(PLANE_R + i), decodeScale);
    const g = decode(v128.load(PLANE_G + i), decodeScale);
    const b = decode(v128.load(PLANE_B + i), decodeScale);
    const l = cubeRoot(dot3(0.4122214708, r, 0.5363325363, g, 0.0514459929, b));
    const m = cubeRoot(dot3(0.2119034982, r, 0.6806995451, g, 0.1073969566, b));
    const s = cubeRoot(dot3(0.0883024619, r, 0.2817188376, g, 0.6299787005, b));
    const a0 = dot3(1.9779984951, l, -2.428592205, m, 0.4505937099, s);
    const b0 = dot3(0.0259040371, l, 0.7827717662, m, -0.808675766, s);
    const p = div(a0, most(add(abs(a0), abs(b0)), splat(1e-20)));
    const k = i32x4.trunc_sat_f32x4_s(least(mul(v128.bitselect(sub(one, p), add(splat(3), p), f32x4.ge(b0, splat(0))), quarter), splat(INTERVALS)));
    const chroma = f32x4.sqrt(add(mul(a0, a0), mul(b0, b0)));
    const amount = mul(pick(TABLE_3, k), least(mul(chroma, splat(certain)), one));
    const keep = sub(one, abs(amount));
    const L = add(mul(dot3(0.2104542553, l, 0.793617785, m, -0.0040720468, s), keep), most(amount, splat(0)));
    const ca = pick(TABLE_1, k);
    const cb = pick(TABLE_2, k);
    const a1 = mul(sub(mul(a0, ca), mul(b0, cb)), keep);
    const b1 = mul(add(mul(a0, cb), mul(b0, ca)), keep);
    let l1 = add(L, add(mul(a1, splat(0.3963377774)), mul(b1, splat(0.2158037573))));
    let m1 = sub(L, add(mul(a1, splat(0.1055613458)), mul(b1, splat(0.0638541728))));
    let s1 = sub(L, add(mul(a1, splat(0.0894841775)), mul(b1, splat(1.291485548))));
    l1 = mul(mul(l1, l1), l1);
    m1 = mul(mul(m1, m1), m1);
    s1 = mul(mul(s1, s1), s1);
    v128.store(PLANE_R + i, encode(dot3(4.0767416621, l1, -3.3077115913, m1, 0.2309699292, s1), encodeScale));
    v128.store(PLANE_G + i, encode(dot3(-1.2684380046, l1, 2.6097574011, m1, -0.3413193965, s1), encodeScale));
    v128.store(PLANE_B + i, encode(dot3(-0.0041960863, l1, -0.7034186147, m1, 1.707614701, s1), encodeScale));
  }
}

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
