// The acceleration of core's OKLab work: same tables, same matrices, four pixels at a time.
import { PLANE_B, PLANE_G, PLANE_OUT, PLANE_R, TABLE_1, TABLE_2, TABLE_3, TABLE_HUE } from './layout';
import { abs, add, cubeRoot, div, dot3, least, look, most, mul, pick, smoothStep, splat, sub } from './simd';
import { decode, encode, INTERVALS } from './transfer';

// Four pixels in OKLab. Globals, because an inlined function can return one value only.
let L: v128 = i32x4.splat(0);
let A: v128 = i32x4.splat(0);
let B: v128 = i32x4.splat(0);

/** Brings the four pixels at a place of the planes here. */
// @ts-ignore: decorator
@inline function load(i: usize, decodeScale: f32): void {
  const r = decode(v128.load(PLANE_R + i), decodeScale);
  const g = decode(v128.load(PLANE_G + i), decodeScale);
  const b = decode(v128.load(PLANE_B + i), decodeScale);
  const l = cubeRoot(dot3(0.4122214708, r, 0.5363325363, g, 0.0514459929, b));
  const m = cubeRoot(dot3(0.2119034982, r, 0.6806995451, g, 0.1073969566, b));
  const s = cubeRoot(dot3(0.0883024619, r, 0.2817188376, g, 0.6299787005, b));
  L = dot3(0.2104542553, l, 0.793617785, m, -0.0040720468, s);
  A = dot3(1.9779984951, l, -2.428592205, m, 0.4505937099, s);
  B = dot3(0.0259040371, l, 0.7827717662, m, -0.808675766, s);
}

/** The way back from {@link load}. */
// @ts-ignore: decorator
@inline function store(i: usize, encodeScale: f32): void {
  let l = add(L, add(mul(A, splat(0.3963377774)), mul(B, splat(0.2158037573))));
  let m = sub(L, add(mul(A, splat(0.1055613458)), mul(B, splat(0.0638541728))));
  let s = sub(L, add(mul(A, splat(0.0894841775)), mul(B, splat(1.291485548))));
  l = mul(mul(l, l), l);
  m = mul(mul(m, m), m);
  s = mul(mul(s, s), s);
  v128.store(PLANE_R + i, encode(dot3(4.0767416621, l, -3.3077115913, m, 0.2309699292, s), encodeScale));
  v128.store(PLANE_G + i, encode(dot3(-1.2684380046, l, 2.6097574011, m, -0.3413193965, s), encodeScale));
  v128.store(PLANE_B + i, encode(dot3(-0.0041960863, l, -0.7034186147, m, 1.707614701, s), encodeScale));
}

// @ts-ignore: decorator
@inline function chroma(): v128 {
  return f32x4.sqrt(add(mul(A, A), mul(B, B)));
}

/** The hue index, see core's colour/hueIndex.ts. */
// @ts-ignore: decorator
@inline function hueIndex(): v128 {
  const p = div(A, most(add(abs(A), abs(B)), splat(1e-20)));
  const index = mul(v128.bitselect(sub(splat(1), p), add(splat(3), p), f32x4.ge(B, splat(0))), splat(INTERVALS / 4));
  return least(index, splat(INTERVALS));
}

/** `n` pixels from encoded sRGB to OKLab, in place. */
export function toLab(n: i32, decodeScale: f32): void {
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    load(i, decodeScale);
    v128.store(PLANE_R + i, L);
    v128.store(PLANE_G + i, A);
    v128.store(PLANE_B + i, B);
  }
}

/** `n` pixels from OKLab to encoded sRGB, in place. */
export function fromLab(n: i32, encodeScale: f32): void {
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    L = v128.load(PLANE_R + i);
    A = v128.load(PLANE_G + i);
    B = v128.load(PLANE_B + i);
    store(i, encodeScale);
  }
}

/** Turns, stretches and lightens `n` pixels in OKLab: (a, b) by the matrix (ca -cb, cb ca), L to L * keep + lift. */
export function turn(n: i32, ca: f32, cb: f32, keep: f32, lift: f32, decodeScale: f32, encodeScale: f32): void {
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    load(i, decodeScale);
    L = add(mul(L, splat(keep)), splat(lift));
    const a = A;
    A = sub(mul(a, splat(ca)), mul(B, splat(cb)));
    B = add(mul(a, splat(cb)), mul(B, splat(ca)));
    store(i, encodeScale);
  }
}

/** Turns, stretches and lightens `n` pixels in OKLab by their own hue: tables of ca, cb and lift over the hue index. */
export function turnHues(n: i32, certain: f32, decodeScale: f32, encodeScale: f32): void {
  const one = splat(1);
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    load(i, decodeScale);
    const k = i32x4.trunc_sat_f32x4_s(hueIndex());
    const amount = mul(pick(TABLE_3, k), least(mul(chroma(), splat(certain)), one));
    const keep = sub(one, abs(amount));
    const ca = pick(TABLE_1, k);
    const cb = pick(TABLE_2, k);
    const a = A;
    L = add(mul(L, keep), most(amount, splat(0)));
    A = mul(sub(mul(a, ca), mul(B, cb)), keep);
    B = mul(add(mul(a, cb), mul(B, ca)), keep);
    store(i, encodeScale);
  }
}

/** Multiplies the chroma of `n` pixels: by `all`, and the more by `weak` the farther they are from being `strong`. */
export function gainChroma(n: i32, all: f32, weak: f32, strong: f32, decodeScale: f32, encodeScale: f32): void {
  const per = splat(1 / strong);
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    load(i, decodeScale);
    const missing = most(sub(splat(1), mul(chroma(), per)), splat(0));
    const gain = mul(splat(all), add(splat(1), mul(splat(weak), mul(missing, missing))));
    A = mul(A, gain);
    B = mul(B, gain);
    store(i, encodeScale);
  }
}

/** Moves those of `n` pixels that lie nearer to a colour than `outer` by a vector, fading in over a distance. */
export function moveNear(
  n: i32, l: f32, a: f32, b: f32, dl: f32, da: f32, db: f32, outer: f32, perFade: f32, decodeScale: f32, encodeScale: f32,
): void {
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    load(i, decodeScale);
    const x = sub(L, splat(l));
    const y = sub(A, splat(a));
    const z = sub(B, splat(b));
    const distance = f32x4.sqrt(add(add(mul(x, x), mul(y, y)), mul(z, z)));
    const share = smoothStep(mul(sub(splat(outer), distance), splat(perFade)));
    L = add(L, mul(splat(dl), share));
    A = add(A, mul(splat(da), share));
    B = add(B, mul(splat(db), share));
    store(i, encodeScale);
  }
}

/** Shifts `n` pixels in OKLab by their lightness: tables of `steps` intervals for L, a and b, less towards black and white. */
export function shiftTones(n: i32, steps: f32, decodeScale: f32, encodeScale: f32): void {
  const one = splat(1);
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    load(i, decodeScale);
    const k = i32x4.trunc_sat_f32x4_s(add(mul(least(most(L, splat(0)), one), splat(steps)), splat(0.5)));
    const share = least(most(mul(splat(10), least(L, sub(one, L))), splat(0)), one);
    L = add(L, mul(pick(TABLE_1, k), share));
    A = add(A, mul(pick(TABLE_2, k), share));
    B = add(B, mul(pick(TABLE_3, k), share));
    store(i, encodeScale);
  }
}

/** How far the hues of `n` pixels are in the range of the hue table, 0..1, faded out below a chroma; `rise` 0: not faded. */
export function hueRange(n: i32, low: f32, rise: f32, decodeScale: f32): void {
  for (let i: usize = 0, end = <usize>n * 4; i < end; i += 16) {
    load(i, decodeScale);
    let cover = look(TABLE_HUE, hueIndex());
    if (rise > 0) cover = mul(cover, smoothStep(mul(sub(chroma(), splat(low)), splat(rise))));
    v128.store(PLANE_OUT + i, cover);
  }
}
