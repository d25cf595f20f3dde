// The acceleration of core's OKLab work: same tables, same matrices, four pixels at a time.
import { PLANE_B, PLANE_G, PLANE_OUT, PLANE_R, TABLE_1, TABLE_2, TABLE_3, TABLE_CONES, TABLE_HUE, TABLE_OKLAB } from './layout';
import { abs, add, cubeRoot, div, least, look, most, mul, pick, smoothStep, splat, sub } from './simd';
import { decode, encode, INTERVALS } from './transfer';

// Numbers of OKLab and of the space in work, each four times; core brings them.
let LL: v128 = i32x4.splat(0);
let LM: v128 = i32x4.splat(0);
let LS: v128 = i32x4.splat(0);
let AL: v128 = i32x4.splat(0);
let AM: v128 = i32x4.splat(0);
let AS: v128 = i32x4.splat(0);
let BL: v128 = i32x4.splat(0);
let BM: v128 = i32x4.splat(0);
let BS: v128 = i32x4.splat(0);
let LA: v128 = i32x4.splat(0);
let LB: v128 = i32x4.splat(0);
let MA: v128 = i32x4.splat(0);
let MB: v128 = i32x4.splat(0);
let SA: v128 = i32x4.splat(0);
let SB: v128 = i32x4.splat(0);
let X0: v128 = i32x4.splat(0);
let X1: v128 = i32x4.splat(0);
let X2: v128 = i32x4.splat(0);
let Y0: v128 = i32x4.splat(0);
let Y1: v128 = i32x4.splat(0);
let Y2: v128 = i32x4.splat(0);
let Z0: v128 = i32x4.splat(0);
let Z1: v128 = i32x4.splat(0);
let Z2: v128 = i32x4.splat(0);
let RX0: v128 = i32x4.splat(0);
let RX1: v128 = i32x4.splat(0);
let RX2: v128 = i32x4.splat(0);
let RY0: v128 = i32x4.splat(0);
let RY1: v128 = i32x4.splat(0);
let RY2: v128 = i32x4.splat(0);
let RZ0: v128 = i32x4.splat(0);
let RZ1: v128 = i32x4.splat(0);
let RZ2: v128 = i32x4.splat(0);

/** Takes over the numbers of OKLab from memory. */
export function readOklab(): void {
  LL = v128.load32_splat(TABLE_OKLAB, 0);
  LM = v128.load32_splat(TABLE_OKLAB, 4);
  LS = v128.load32_splat(TABLE_OKLAB, 8);
  AL = v128.load32_splat(TABLE_OKLAB, 12);
  AM = v128.load32_splat(TABLE_OKLAB, 16);
  AS = v128.load32_splat(TABLE_OKLAB, 20);
  BL = v128.load32_splat(TABLE_OKLAB, 24);
  BM = v128.load32_splat(TABLE_OKLAB, 28);
  BS = v128.load32_splat(TABLE_OKLAB, 32);
  LA = v128.load32_splat(TABLE_OKLAB, 36);
  LB = v128.load32_splat(TABLE_OKLAB, 40);
  MA = v128.load32_splat(TABLE_OKLAB, 44);
  MB = v128.load32_splat(TABLE_OKLAB, 48);
  SA = v128.load32_splat(TABLE_OKLAB, 52);
  SB = v128.load32_splat(TABLE_OKLAB, 56);
}

/** Takes over the matrices of a space from memory. */
export function readCones(): void {
  X0 = v128.load32_splat(TABLE_CONES, 0);
  X1 = v128.load32_splat(TABLE_CONES, 4);
  X2 = v128.load32_splat(TABLE_CONES, 8);
  Y0 = v128.load32_splat(TABLE_CONES, 12);
  Y1 = v128.load32_splat(TABLE_CONES, 16);
  Y2 = v128.load32_splat(TABLE_CONES, 20);
  Z0 = v128.load32_splat(TABLE_CONES, 24);
  Z1 = v128.load32_splat(TABLE_CONES, 28);
  Z2 = v128.load32_splat(TABLE_CONES, 32);
  RX0 = v128.load32_splat(TABLE_CONES, 36);
  RX1 = v128.load32_splat(TABLE_CONES, 40);
  RX2 = v128.load32_splat(TABLE_CONES, 44);
  RY0 = v128.load32_splat(TABLE_CONES, 48);
  RY1 = v128.load32_splat(TABLE_CONES, 52);
  RY2 = v128.load32_splat(TABLE_CONES, 56);
  RZ0 = v128.load32_splat(TABLE_CONES, 60);
  RZ1 = v128.load32_splat(TABLE_CONES, 64);
  RZ2 = v128.load32_splat(TABLE_CONES, 68);
}

// @ts-ignore: decorator
@inline function row(a: v128, x: v128, b: v128, y: v128, c: v128, z: v128): v128 {
  return add(add(mul(a, x), mul(b, y)), mul(c, z));
}

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
  const l = cubeRoot(row(X0, r, X1, g, X2, b));
  const m = cubeRoot(row(Y0, r, Y1, g, Y2, b));
  const s = cubeRoot(row(Z0, r, Z1, g, Z2, b));
  L = row(LL, l, LM, m, LS, s);
  A = row(AL, l, AM, m, AS, s);
  B = row(BL, l, BM, m, BS, s);
}

/** The way back from {@link load}. */
// @ts-ignore: decorator
@inline function store(i: usize, encodeScale: f32): void {
  let l = add(L, add(mul(A, LA), mul(B, LB)));
  let m = add(L, add(mul(A, MA), mul(B, MB)));
  let s = add(L, add(mul(A, SA), mul(B, SB)));
  l = mul(mul(l, l), l);
  m = mul(mul(m, m), m);
  s = mul(mul(s, s), s);
  v128.store(PLANE_R + i, encode(row(RX0, l, RX1, m, RX2, s), encodeScale));
  v128.store(PLANE_G + i, encode(row(RY0, l, RY1, m, RY2, s), encodeScale));
  v128.store(PLANE_B + i, encode(row(RZ0, l, RZ1, m, RZ2, s), encodeScale));
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
export function rotateHues(n: i32, certain: f32, decodeScale: f32, encodeScale: f32): void {
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
